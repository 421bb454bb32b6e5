"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="The one thing that disturbs; then whether the rest has become thinner with it.",
    start=(
        "Low cut at 80 to 100 Hz for a voice; −3 dB around 300 Hz where it is boxy; +2 dB "
        "around 3 kHz for words."
    ),
    avoid="More than 6 dB up anywhere: look for what covers it instead.",
)
