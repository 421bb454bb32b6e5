"""How long it sounds on."""

from __future__ import annotations

from bathyphon.core.effects.kit.settings import Settings


def delay(settings: Settings) -> int:
    """Samples by which the middle is late on the sides."""
    return round(settings.fixed("delay_ms") * settings.sample_rate / 1000.0)


def lasts(settings: Settings) -> int:
    """What waits comes out after the sound has ended."""
    return delay(settings)
