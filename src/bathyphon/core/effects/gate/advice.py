"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="Whether ends of words are cut, and whether silence has become a hole.",
    start="Threshold just above the hiss, range 10 to 15 dB, hold 80 ms.",
    avoid="Rooms with a tone of their own: leave some of it, or lay one beneath.",
)
