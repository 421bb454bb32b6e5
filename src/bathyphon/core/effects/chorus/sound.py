"""Chorus: three wavering copies a side, so that one sounds like many."""

from __future__ import annotations

from bathyphon.core.effects.kit.processor import Processor
from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.effects.kit.swinging import Swinging

VOICES = 3


def make(settings: Settings) -> Processor:
    """Its processor."""
    return Swinging(settings, VOICES, swing_below=False)
