"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="Whether it comes from behind, and how its treble changes as it turns; by headphones.",
    start="One turn in four to eight seconds, two metres away; slower for what is far.",
    avoid="A film that is only heard by loudspeakers: most of it is lost there.",
)
