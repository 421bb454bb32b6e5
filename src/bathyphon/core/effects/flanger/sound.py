"""Flanger: one copy a side whose delay swings down to nearly nothing."""

from __future__ import annotations

from bathyphon.core.effects.kit.processor import Processor
from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.effects.kit.swinging import Swinging


def make(settings: Settings) -> Processor:
    """Its processor."""
    return Swinging(settings, 1, swing_below=True)
