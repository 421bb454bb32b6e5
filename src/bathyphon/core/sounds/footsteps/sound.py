"""Footsteps: heel and sole on a ground that thuds, rings, rubs or splashes."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.bubbles import bubble
from bathyphon.core.sounds.kit.events import grains, tones
from bathyphon.core.sounds.kit.stretch import Stretch

GRAVEL, WOOD, STONE, SNOW, PUDDLES, METAL = range(6)
# Of each ground: how long the sole rubs, its grains a second, their pitch, and how much it thuds.
RUB_S = (0.16, 0.05, 0.04, 0.22, 0.25, 0.04)
GRAINS = (420.0, 60.0, 90.0, 700.0, 160.0, 70.0)
PITCH = (3200.0, 1500.0, 3800.0, 2600.0, 1300.0, 2800.0)
THUD = (0.35, 1.0, 0.55, 0.30, 0.25, 0.6)
# Free plates and boards ring at these multiples (Fletcher & Rossing).
MODES = (1.0, 2.76, 5.40, 8.93)


def seconds(p: Mapping[str, float]) -> float:
    """All steps and the last one's end."""
    return 60 / p["pace"] * p["steps"] + 0.6


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """Heel, then sole: a thud, what rings of the ground, and grains for as long as it rubs."""
    on, heavy = round(p["on"]), p["weight"] / 100
    out = at.silence()
    every = 60 / p["pace"]
    steps = round(p["steps"])
    chance = at.at("steps", np.zeros(steps)).u
    when = 0.05 + every * (np.arange(steps) + 0.06 * (chance[0] - 0.5))
    heels = at.at("steps", when)
    side = np.where(np.arange(steps) % 2 == 0, 0.42, 0.58) * np.pi / 2
    loud = (0.5 + 0.5 * heavy) * (0.8 + 0.4 * chance[1])
    left, right = loud * np.cos(side), loud * np.sin(side)
    thud = THUD[on] * (0.5 + heavy)
    tones(out, heels, 95 - 30 * heavy, 55.0, thud * left, thud * right, -3.0, 0.002)
    grains(out, heels, 400.0, 500.0, 120.0, 0.4 * thud * left, 0.4 * thud * right)
    if on in (WOOD, METAL):
        first, fades = (170.0, 45.0) if on == WOOD else (240.0, 7.0)
        for k, ratio in enumerate(MODES):
            level = 0.35 / (k + 1)
            tones(out, heels, first * ratio * (1 + 0.02 * chance[2]), fades * (1 + 0.6 * k),
                  level * left, level * right, attack_s=0.001)  # fmt: skip
    rub = RUB_S[on] * (0.8 + 0.4 * heavy)
    per_step = max(6, round(GRAINS[on] * rub))
    where = np.repeat(np.arange(steps), per_step)
    bits = at.at("bits", np.zeros(where.size)).u
    # Most as the heel comes down, less as the sole rolls over.
    later = rub * bits[0] ** 1.5
    rubs = at.at("bits", when[where] + later)
    level = 0.5 * bits[2] ** 2 * (1 - 0.7 * later / rub) / np.sqrt(per_step / 20)
    hz = PITCH[on] * 2.5 ** (bits[3] - 0.5)
    decay = 250.0 if on != PUDDLES else 70.0
    grains(out, rubs, hz, 0.9 * hz, decay * (0.6 + bits[4]), level * left[where],
           level * right[where])  # fmt: skip
    if on == PUDDLES:
        radius = 0.0018 * 3 ** bits[4]
        pitch, dies = bubble(radius)
        tones(out, rubs, pitch, dies,
              0.5 * level * left[where], 0.5 * level * right[where], 20.0, 0.002)  # fmt: skip
    return out
