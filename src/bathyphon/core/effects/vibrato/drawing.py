"""The pitch over some swings."""

from __future__ import annotations

import numpy as np

from bathyphon.core.effects.kit.drawing.held import value
from bathyphon.core.effects.kit.drawing.model import MOST_POINTS, Axis, Drawing, line
from bathyphon.core.effects.kit.drawing.view import View
from bathyphon.core.effects.vibrato.reach import excursion
from bathyphon.core.effects.vibrato.sound import swing_of

SWINGS = 3.0


def draw(view: View) -> Drawing:
    """Pitch of both sides over some swings, from the moving delay."""
    settings = view.now
    rate_hz = value(settings, "rate_hz")
    cents = value(settings, "swing")
    seconds = SWINGS / rate_hz
    t = np.linspace(0.0, seconds, 4 * MOST_POINTS)
    shape = settings.choice("shape")
    reach = excursion(np.array([cents]), np.array([rate_hz]), settings.sample_rate)[0]
    lines = []
    apart = value(settings, "stereo") / 360.0
    for side, style in ((1, "other"), (0, "result")):
        delay = -reach * swing_of(t * rate_hz + side * apart, shape) / settings.sample_rate
        speed = 1.0 - np.gradient(delay, t)
        lines.append(
            line(t[::2], 1200.0 * np.log2(np.maximum(speed[::2], 0.1)), style)  # type: ignore[arg-type]
        )
    high = max(10.0, 1.3 * cents)
    return Drawing(
        Axis("Time", "s", 0.0, float(f"{seconds:.3g}")),
        Axis("Pitch", "cents", -high, high),
        tuple(lines if apart else lines[1:]),
    )
