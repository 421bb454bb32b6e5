"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="Whether the music is heard to dive; it should only be missed.",
    start="6 to 10 dB, 60 ms down, 600 ms back.",
    avoid="Music that answers the words: draw its level by hand.",
)
