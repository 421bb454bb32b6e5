"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen=(
        "Whether the sound stays where its picture is, and what is left of it in one loudspeaker."
    ),
    start="30 to 50 to either side for somebody at the edge of the picture; width 0 % for a voice.",
    avoid="Speech that carries the story: keep it in the middle.",
)
