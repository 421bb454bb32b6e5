"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="How dense it is, and whether consonants spit.",
    start="6 to 12 dB for warmth, 20 for a loudspeaker that gives up; tone at 4 kHz.",
    avoid="Sound that is clipped already.",
)
