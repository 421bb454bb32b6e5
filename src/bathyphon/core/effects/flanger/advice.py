"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="The sweep, like a plane that passes; whether it comes at the wrong moment.",
    start="One sweep in four to eight seconds; feedback 30 to 60 %.",
    avoid="Bass: it comes and goes.",
)
