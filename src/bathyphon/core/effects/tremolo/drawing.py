"""The level over some swings."""

from __future__ import annotations

import numpy as np

from bathyphon.core.effects.kit.drawing.held import answer, value
from bathyphon.core.effects.kit.drawing.model import MOST_POINTS, Axis, Drawing, line
from bathyphon.core.effects.kit.drawing.view import View

SWINGS = 3.0


def draw(view: View) -> Drawing:
    """Level of both sides over some swings."""
    effect, settings = view.effect, view.now
    rate = settings.sample_rate
    seconds = SWINGS / value(settings, "rate_hz")
    y = answer(effect, settings, np.ones((2, round(seconds * rate))))
    step = max(1, y.shape[1] // (2 * MOST_POINTS))
    t = np.arange(0, y.shape[1], step) / rate
    lines = [line(t, y[0, ::step], "result", "left")]
    if not np.allclose(y[0], y[1]):
        lines.insert(0, line(t, y[1, ::step], "other", "right"))
    return Drawing(
        Axis("Time", "s", 0.0, float(f"{seconds:.3g}")), Axis("Level", "×", 0.0, 1.1), tuple(lines)
    )
