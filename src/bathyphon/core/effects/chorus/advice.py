"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="Width and softness; whether it has become seasick.",
    start="0.3 to 0.8 Hz, mix 30 to 50 %.",
    avoid="Dialogue, unless it is meant to be strange.",
)
