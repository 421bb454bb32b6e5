"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="How ill the tape is.",
    start=(
        "5 to 6 Hz and 20 to 40 cents for a voice that shakes; 0.5 Hz and 30 cents for an old tape."
    ),
    avoid="Music that others play along with.",
)
