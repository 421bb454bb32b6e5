"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="The colour of the place, not only its length.",
    start="Mix 20 to 40 %; the direct sound 3 dB down for somebody farther away.",
    avoid="A voice that has a room in its recording: two rooms are one too many.",
)
