"""How long its bands take to settle."""

from __future__ import annotations

import math

from bathyphon.core.effects.kit.settings import Settings

SETTLED_DB = 90.0


def lookback(settings: Settings) -> int:
    """Samples until the narrowest band has forgotten what came before.

    A resonance of quality Q at f falls as exp(−π·f·t / Q).
    """
    slowest = max(
        (
            settings.curves[f"bands.{i}.q"].largest / settings.curves[f"bands.{i}.freq_hz"].smallest
            for i in range(settings.entries("bands"))
        ),
        default=0.0,
    )
    seconds = slowest * math.log(10.0 ** (SETTLED_DB / 20.0)) / math.pi
    return round(seconds * settings.sample_rate)
