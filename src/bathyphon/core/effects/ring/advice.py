"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="Metal in the vowels, tones that belong to no scale.",
    start="30 to 60 Hz, mix 40 to 65 % for a machine that can be understood.",
    avoid="Music: its chords are gone.",
)
