"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="Grain in the tails, and whistling that moves against the tune.",
    start="8 bits and 11 kHz for an old toy, 12 bits for grit.",
    avoid="Soft sounds: what is left of them is noise.",
)
