"""Knock: a contact that sets the modes of a body ringing."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.events import grains, tones
from bathyphon.core.sounds.kit.stretch import Stretch

WOOD, METAL, GLASS, STONE = range(4)
# Modes, and by how much each is heard; nepers a second of the first, and how fast others follow.
MODES = (
    (1.0, 1.58, 2.24, 2.92, 3.5),
    (1.0, 2.76, 5.40, 8.93, 13.34),
    (1.0, 2.32, 4.25, 6.63, 9.38),
    (1.0, 1.72, 2.61, 3.9, 5.2),
)
DECAY = (38.0, 3.2, 5.0, 70.0)
FOLLOW = (0.9, 0.25, 0.35, 1.2)
SOFT = (0.0035, 0.0018, 0.0004, 0.0012)
"""Seconds for which a knuckle touches it."""


def seconds(p: Mapping[str, float]) -> float:
    """All knocks and what rings after the last."""
    return 0.28 * (p["times"] - 1) + 0.3 + min(3.0, 9 / DECAY[round(p["of"])])


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """A contact, as short as it is hard, that sets the modes of a body ringing."""
    of, hard = round(p["of"]), p["hard"] / 100
    count = round(p["times"])
    chance = at.at("knocks", np.zeros(count)).u
    knocks = at.at("knocks", 0.03 + 0.28 * np.arange(count) + 0.03 * (chance[0] - 0.5))
    out = at.silence()
    loud = 0.75 + 0.4 * chance[1]
    contact = SOFT[of] * 0.12**hard
    for k, ratio in enumerate(MODES[of]):
        hz = p["pitch"] * ratio * (1 + 0.006 * (chance[2] - 0.5))
        # A soft contact lasts longer than a high mode's half turn, and does not set it going.
        reached = np.exp(-((hz * contact * 1.6) ** 2))
        decay = DECAY[of] * (1 + FOLLOW[of] * k) * (p["pitch"] / 200) ** 0.3
        level = loud * reached / (1 + 0.35 * k)
        pan = (0.5 + 0.08 * (-1) ** k) * np.pi / 2
        tones(
            out, knocks, hz, decay, level * np.cos(pan), level * np.sin(pan), attack_s=contact / 2
        )
    middle = min(8000.0, 0.35 / contact)
    grains(out, knocks, middle, middle, 1.2 / contact, 0.5 * loud, 0.5 * loud)
    return out
