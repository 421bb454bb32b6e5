"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="Nothing, if it is right: only peaks go.",
    start="Ceiling −1 dBTP, at most 3 to 4 dB taken off.",
    avoid="A mix that is 8 dB over: turn it down first.",
)
