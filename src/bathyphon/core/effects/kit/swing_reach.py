"""How long copies of copies sound on."""

from __future__ import annotations

import math

from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.effects.kit.tails import TAIL_FALL_DB

LOOP_LIMIT = 0.97


def lasts(settings: Settings) -> int:
    """Samples until copies of copies have fallen 90 dB."""
    feedback = settings.curves["feedback"]
    share = min(LOOP_LIMIT, max(abs(feedback.largest), abs(feedback.smallest)) / 100.0)
    longest = 1.5 * settings.curves["delay_ms"].largest * settings.sample_rate / 1000.0
    again = TAIL_FALL_DB / (-20.0 * math.log10(share)) if share > 0.0 else 0.0
    return math.ceil(longest * (1.0 + again))
