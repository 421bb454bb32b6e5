"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="Whether the voices breathe together; a frame apart they are people.",
    start="A third above, −6 dB; doubles 20 to 30 ms apart at −3 dB; lows and highs rolled off.",
    avoid="Chords that change under a fixed interval: give it the key.",
)
