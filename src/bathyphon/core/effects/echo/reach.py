"""How long it sounds on, and how far ahead it looks."""

from __future__ import annotations

import math

from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.effects.kit.tails import TAIL_FALL_DB, TAIL_LIMIT_SECONDS
from bathyphon.core.timing.curves import Curve

LOOP_LIMIT = 0.99


def repeats_of(settings: Settings) -> int:
    return int(settings.fixed("repeats"))


def tail(settings: Settings) -> int:
    """Samples until the last repeat of a full-scale sound has fallen 90 dB below the first."""
    curves = settings.curves

    def gain(feedback: Curve) -> float:
        if "drop_db" in settings.given:
            return float(10.0 ** (-curves["drop_db"].smallest / 20.0))
        return feedback.largest / 100.0

    sides = [
        (curves["time_ms"].largest, gain(curves["feedback"])),
        (curves["right_time_ms"].largest, gain(curves["right_feedback"])),
    ]
    if curves["cross"].largest > 0.0:
        sides = [(max(t for t, _ in sides), max(g for _, g in sides))]
    count = repeats_of(settings)
    longest = 0.0
    for time_ms, factor in sides:
        if factor <= 0.0 or curves["mix"].largest <= 0.0:
            continue
        if count:
            # The closing fade must not eat the last repeat, nor its low cut's swing-back.
            ring_ms = 20.0 + 1000.0 * count / curves["low_cut_hz"].smallest
            longest = max(longest, count * time_ms + ring_ms)
        else:
            repeats = math.ceil(TAIL_FALL_DB / (-20.0 * math.log10(min(factor, LOOP_LIMIT))))
            longest = max(longest, (repeats + 1) * time_ms)
    return math.ceil(min(longest / 1000.0, TAIL_LIMIT_SECONDS) * settings.sample_rate)
