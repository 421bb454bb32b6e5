"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="Whether quiet words come nearer, and whether the room breathes between them.",
    start="3:1, 10 ms and 150 ms, 3 to 6 dB at the loudest words.",
    avoid="More than 8 dB on a voice with a loud room: the room comes up with it.",
)
