"""Door: hinges that stick and slip, a panel that hits its frame, a latch."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.events import grains, tones
from bathyphon.core.sounds.kit.stretch import Stretch

PANEL = (1.0, 1.63, 2.33, 2.97, 3.72, 4.6)
CREAK_S = 1.6


def seconds(p: Mapping[str, float]) -> float:
    """Creak, closing and what rings."""
    return (CREAK_S if p["creak"] > 0 else 0.0) + 0.9 + 1.6 * p["of"]


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """Hinges that stick and slip, the panel on its frame, and the latch a moment later."""
    size, force, metal = p["size"] / 100, p["force"] / 100, p["of"] > 0.5
    out = at.silence()
    shut = 0.05
    if p["creak"] > 0:
        shut += CREAK_S
        # The slower it moves, the fewer slips: fast in the middle, ending as it closes.
        turn = np.linspace(0, 1, 400)
        slips = np.cumsum(1 / (35 + 150 * np.sin(np.pi * turn) ** 2))
        slips = 0.05 + slips[slips < CREAK_S - 0.15]
        creaks = at.at("creak", slips)
        level = 0.22 * p["creak"] / 100 * (0.5 + 0.5 * creaks.u[0])
        for ratio in (1.0, 2.1, 3.3, 4.9):
            tones(out, creaks, 520 * ratio * (1 + 0.15 * np.sin(9 * slips)), 160.0,
                  level / ratio**0.5, 0.8 * level / ratio**0.5)  # fmt: skip
    hit = at.at("shut", [shut])
    lowest = (150 - 95 * size) * (1.5 if metal else 1.0)
    for k, ratio in enumerate(PANEL):
        hz = lowest * ratio
        decay = (6.0 + 1.5 * k) if metal else (26.0 + 14 * k)
        level = (0.3 + force) / (1 + 0.5 * k) * (0.5 + force) ** k
        tones(out, hit, hz, decay, level, level * (0.8 + 0.1 * k), -0.4, 0.004 - 0.003 * force)
    grains(out, hit, 350 + 900 * force, 900, 45, 0.5 * force + 0.1, 0.5 * force + 0.1, 0.001)
    air = at.at("air", [shut - 0.03])
    grains(out, air, 200, 260, 14, 0.4 * size * force, 0.4 * size * force, 0.03)
    latch = at.at("latch", shut + np.array([0.018, 0.055, 0.075]))
    level = np.array([0.22, 0.16, 0.1]) * (1.2 - 0.5 * size)
    grains(out, latch, 2400 if not metal else 1500, 1600, 180, level, level)
    tones(out, latch, 1450 if not metal else 620, 60 if not metal else 12, 0.4 * level, 0.4 * level)
    return out
