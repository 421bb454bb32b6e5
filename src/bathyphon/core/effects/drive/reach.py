"""How long it sounds on, and how far ahead it looks."""

from __future__ import annotations

from bathyphon.core.dsp.latency import OVERSAMPLING
from bathyphon.core.effects.kit.settings import Settings


def lookahead(settings: Settings) -> int:
    """Samples that going up to the faster rate and back takes."""
    return OVERSAMPLING
