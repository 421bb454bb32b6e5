"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="How long it takes to be gone after the last word, and whether words blur.",
    start=(
        "Decay 0.4 to 0.8 s for a room, 2 to 3 s for a hall, up to 10 s for music at a cut; "
        "mix 12 % behind a voice."
    ),
    avoid="Fast speech over long decays: shorten it, or send only the last word.",
)
