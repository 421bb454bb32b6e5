"""Levels of both sides along the way from left to right."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from bathyphon.core.effects.kit.drawing.held import answer, value
from bathyphon.core.effects.kit.drawing.model import Axis, Drawing, Grip, Mark, line
from bathyphon.core.effects.kit.drawing.view import View
from bathyphon.core.timing.curves import Curve
from bathyphon.core.words import signed


def draw(view: View) -> Drawing:
    """Levels of both sides along the way from left to right, and where the sound is now."""
    effect, settings = view.effect, view.now
    place = np.linspace(-100.0, 100.0, 81)
    rows = []
    for p in place:
        there = replace(settings, curves={**settings.curves, "position": Curve.constant(float(p))})
        rows.append(answer(effect, there, np.ones((2, 1)))[:, 0])
    sides = np.array(rows)
    now = value(settings, "position")
    gains = answer(effect, settings, np.ones((2, 1)))[:, 0]
    facts = tuple(
        f"{word} {signed(20.0 * np.log10(g))} dB" if g > 1e-4 else f"{word} silent"
        for word, g in zip(("Left", "Right"), gains, strict=True)
    )
    return Drawing(
        Axis("Position", "", -100.0, 100.0),
        Axis("Share", "×", 0.0, 1.6),
        (line(place, sides[:, 1], "other", "right"), line(place, sides[:, 0], "result", "left")),
        (Mark(now, float(max(gains)), "now"),),
        (Grip(now, float(max(gains)), "Position", "position"),),
        facts,
    )
