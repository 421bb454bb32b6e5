"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="The beat of the level against the beat of the picture.",
    start="Six to eight a second for nerves, two for a lamp that fails.",
    avoid="Speech: above 60 % words are cut.",
)
