"""The repeats as stems, with how far the wall would be."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from bathyphon.core.effects.echo.distance import milliseconds_per_metre
from bathyphon.core.effects.echo.table import MEDIA
from bathyphon.core.effects.kit.drawing.decay import FALL_DB, LONGEST_SECONDS
from bathyphon.core.effects.kit.drawing.held import answer, impulse, value
from bathyphon.core.effects.kit.drawing.model import Axis, Drawing, Grip, Mark, decibels
from bathyphon.core.effects.kit.drawing.view import View

MOST_MARKS = 24


def draw(view: View) -> Drawing:
    """The repeats of a pulse: when, how loud, and how far the wall would be."""
    effect, settings = view.effect, view.now
    # A low rate is enough to see when and how loud.
    rate = 8000
    slow = replace(settings, sample_rate=rate)
    per_metre = milliseconds_per_metre(
        MEDIA[settings.choice("medium")], value(settings, "temperature_c")
    )
    times = (value(settings, "time_ms"), value(settings, "right_time_ms"))
    seconds = min(LONGEST_SECONDS, effect.tail(slow) / rate + 0.05)
    y = answer(effect, slow, impulse(max(rate // 10, round(seconds * rate))))
    marks = [Mark(0.0, float(decibels(y[:, 0]).max()), "direct", "before")]
    for side, time in enumerate(times):
        step = time * rate / 1000.0
        for k in range(1, MOST_MARKS + 1):
            at = round(k * step)
            if at >= y.shape[1]:
                break
            near = slice(max(1, at - 3), at + max(4, min(round(step) // 2, 60)))
            level = float(decibels(np.array([np.sqrt(np.sum(y[side, near] ** 2))]))[0])
            if level < -FALL_DB:
                break
            marks.append(
                Mark(
                    k * time / 1000.0,
                    level,
                    _place(k, time, per_metre),
                    "result" if side == 0 else "other",
                )
            )
    shown = [m for m in marks if m.style == "result"]
    end = max((m.x for m in marks), default=1.0)
    facts = [m.label for m in shown[:2]]
    grips: tuple[Grip, ...] = ()
    if shown:
        grips = (Grip(shown[0].x, shown[0].y, "First repeat", "time_ms", "", 0.001),)
    return Drawing(
        Axis("Time", "s", 0.0, float(f"{max(1.15 * end, 0.05):.3g}")),
        Axis("Level", "dB", -FALL_DB, 6.0),
        marks=tuple(marks),
        grips=grips,
        facts=tuple(facts),
        units={"m": per_metre},
    )


def _place(k: int, time_ms: float, per_metre: float) -> str:
    metres = k * time_ms / per_metre
    return f"repeat {k}, {k * time_ms:.0f} ms, as from a wall {metres:.1f} m away"
