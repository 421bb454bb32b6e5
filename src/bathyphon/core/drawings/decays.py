"""Rooms: how the sound of each band falls after it has ended, and echoes with their distances."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from bathyphon.core.curves import Curve
from bathyphon.core.drawings.held import answer, impulse, value
from bathyphon.core.drawings.model import (
    MOST_POINTS,
    Axis,
    Drawing,
    Grip,
    Line,
    Mark,
    decibels,
    line,
)
from bathyphon.core.effects.base import Effect, Settings
from bathyphon.core.effects.distance import MEDIA, milliseconds_per_metre
from bathyphon.core.measure.decay import integrated, octave_band, slope

BANDS = ((125.0, "bass"), (1000.0, "middle"), (4000.0, "treble"))
LONGEST_SECONDS = 12.0
FALL_DB = 60.0
MOST_MARKS = 24
ONLY_WET = {"mix": Curve.constant(100.0), "dry_db": Curve.constant(-96.0)}


def decay(effect: Effect, settings: Settings) -> Drawing:
    """Energy left in three octave bands after a pulse, by backward integration (ISO 3382-1)."""
    rate = settings.sample_rate
    seconds = min(LONGEST_SECONDS, 0.1 + 0.75 * effect.tail(settings) / rate)
    wet = replace(settings, curves={**settings.curves, **ONLY_WET})
    y = answer(effect, wet, impulse(round(seconds * rate), side=0))
    lines: list[Line] = []
    facts: list[str] = []
    longest = 0.2
    for freq, label in BANDS:
        level = integrated(np.sum(octave_band(y, freq, rate) ** 2, axis=0), rate, freq)
        inside = np.flatnonzero(level >= -FALL_DB)
        longest = max(longest, (inside[-1] + 1) / rate if inside.size else 0.1)
        step = max(1, level.size // (2 * MOST_POINTS))
        t = np.arange(0, level.size, step) / rate
        lines.append(line(t, level[::step], "result" if label == "middle" else "other", label))
        found = slope(level, 30.0, rate) or slope(level, 20.0, rate)
        if found:
            facts.append(f"{label} {found:.2f} s")
    time = Axis("Time", "s", 0.0, float(f"{min(longest, seconds):.2g}"))
    grips: tuple[Grip, ...] = ()
    if effect.id == "reverb":
        set_to = value(settings, "decay_s")
        grips = (Grip(set_to, -FALL_DB + 6.0, "Decay", "decay_s"),)
        time = Axis("Time", "s", 0.0, max(time.high, float(f"{1.15 * set_to:.3g}")))
    return Drawing(
        time, Axis("Level", "dB", -FALL_DB, 0.0), tuple(lines), grips=grips, facts=tuple(facts)
    )


def echoes(effect: Effect, settings: Settings) -> Drawing:
    """The repeats of a pulse: when, how loud, and how far the wall would be."""
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
