"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="A slow change of vowels, without the plane.",
    start="0.15 to 0.5 Hz, feedback below 40 %.",
    avoid="Sounds with little between 300 Hz and 3 kHz: nothing is heard of it.",
)
