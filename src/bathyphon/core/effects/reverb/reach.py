"""How long it sounds on, and how far ahead it looks."""

from __future__ import annotations

import math

from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.effects.kit.tails import TAIL_FALL_DB, TAIL_LIMIT_SECONDS
from bathyphon.core.effects.reverb.lines import LENGTHS_MS


def tail(settings: Settings) -> int:
    """Samples until the slowest band has fallen 90 dB."""
    curves = settings.curves
    if curves["mix"].largest <= 0.0:
        return 0
    slowest = max(1.0, curves["bass_decay"].largest, curves["treble_decay"].largest)
    first_ms = curves["predelay_ms"].largest + curves["size"].largest / 100.0 * float(
        LENGTHS_MS[-1]
    )
    seconds = TAIL_FALL_DB / 60.0 * curves["decay_s"].largest * slowest + first_ms / 1000.0
    return math.ceil(min(seconds, TAIL_LIMIT_SECONDS) * settings.sample_rate)
