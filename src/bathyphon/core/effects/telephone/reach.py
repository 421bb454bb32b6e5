"""How long it sounds on, and how far ahead it looks."""

from __future__ import annotations

from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.timing.shapes import SILENCE_DB

ENDLESS = 2**60
"""Samples: a line that hisses does so to the end of its span."""


def lasts(settings: Settings) -> int:
    """To the end of its span, if the line hisses."""
    return ENDLESS if settings.curves["noise_db"].largest > SILENCE_DB else 0
