"""How long it sounds on, and how far ahead it looks."""

from __future__ import annotations

import math

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.effects.kit.settings import Settings

GUARD = 4


def excursion(cents: Floats, rate_hz: Floats, sample_rate: int) -> Floats:
    """Samples by which the delay of a full turn's swing could differ, per unit of its shape."""
    found: Floats = (2.0 ** (cents / 1200.0) - 1.0) * sample_rate / rate_hz
    return found


def lookahead(settings: Settings) -> int:
    """Samples by which the delay can be early."""
    farthest = math.ceil(farthest_swing(settings))
    return (2 * farthest if is_moving(settings) else farthest) + GUARD


def farthest_swing(settings: Settings) -> float:
    """Samples that the delay swings each way at most, while the swing stays what it is."""
    cents = np.array([settings.curves["swing"].largest])
    slowest = np.array([settings.curves["rate_hz"].smallest])
    return float(excursion(cents, slowest, settings.sample_rate)[0]) / 4.0


def is_moving(settings: Settings) -> bool:
    return settings.moves("swing", "rate_hz", "stereo")
