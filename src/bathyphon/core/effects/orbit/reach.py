"""How long it sounds on, and how far ahead it looks."""

from __future__ import annotations

from bathyphon.core.effects.kit.settings import Settings

BASE = 2


def lookahead(settings: Settings) -> int:
    """Samples that the ears' delays need around a place."""
    return BASE
