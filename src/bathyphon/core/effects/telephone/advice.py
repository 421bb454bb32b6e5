"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="The edge of the consonants, and the hiss in the pauses.",
    start=(
        "300 to 3400 Hz; a low cut at 730 Hz for a small one; a little drive, lower than the "
        "voice in the room."
    ),
    avoid="Long talks: after a minute the ear is tired of it. Open it by and by.",
)
