"""How the sound of each band falls after it has ended."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from bathyphon.core.effects.kit.drawing.held import answer, impulse, value
from bathyphon.core.effects.kit.drawing.model import MOST_POINTS, Axis, Drawing, Grip, Line, line
from bathyphon.core.effects.kit.drawing.view import View
from bathyphon.core.measure.decay import integrated, octave_band, slope
from bathyphon.core.timing.curves import Curve

BANDS = ((125.0, "bass"), (1000.0, "middle"), (4000.0, "treble"))
LONGEST_SECONDS = 12.0
FALL_DB = 60.0
ONLY_WET = {"mix": Curve.constant(100.0), "dry_db": Curve.constant(-96.0)}


def decay(view: View, grip: str = "") -> Drawing:
    """Energy left in three octave bands after a pulse, by backward integration (ISO 3382-1).

    Parameters
    ----------
    view : View
    grip : str
        Id of the parameter that is its decay time in seconds, if one is.
    """
    effect, settings = view.effect, view.now
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
    if grip:
        set_to = value(settings, grip)
        grips = (Grip(set_to, -FALL_DB + 6.0, "Decay", grip),)
        time = Axis("Time", "s", 0.0, max(time.high, float(f"{1.15 * set_to:.3g}")))
    return Drawing(
        time, Axis("Level", "dB", -FALL_DB, 0.0), tuple(lines), grips=grips, facts=tuple(facts)
    )
