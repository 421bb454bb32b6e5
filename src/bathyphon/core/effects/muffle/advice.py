"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="How far away the world seems; whether words are still to be understood.",
    start=(
        "900 Hz for a wall, 500 Hz for water, 6 to 12 dB quieter; ramps of three frames in, "
        "six out."
    ),
    avoid="A line that must be followed: lower its amount to 60 %.",
)
