"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="How broad it is, and what is left of it in one loudspeaker.",
    start="30 to 60 %.",
    avoid="Voices in the middle of the picture.",
)
