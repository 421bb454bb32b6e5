"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen=(
        "The gap until the first repeat: that is the distance. 350 ms are sixty metres there "
        "and back."
    ),
    start=(
        "305 ms and 50 % for a spoken line; half a second and 15 to 20 % for a call; a "
        "quarter second for a slap."
    ),
    avoid="Busy speech: keep it for the word before a pause.",
)
