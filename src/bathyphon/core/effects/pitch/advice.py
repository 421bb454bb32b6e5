"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="Whether the speaker has become another person, or only been slowed.",
    start=(
        "A semitone or two for another age; −12 for a creature; formants held for a person, "
        "following for a toy."
    ),
    avoid="More than four semitones on a voice that must stay natural.",
)
