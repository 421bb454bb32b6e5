"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="The level of a word against the words around it; where a fade is heard as a fade.",
    start="−3 dB to make room, −12 dB under speech, +6 dB for a line that was spoken too softly.",
    avoid="Peaks that already reach the top: limit them, or turn the rest down.",
)
