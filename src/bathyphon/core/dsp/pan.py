"""The law of panning."""

from __future__ import annotations

import math

import numpy as np

from bathyphon.core.arrays import Floats

CONSTANT_POWER = 0
"""Of the laws the one at −3 dB."""


def law_gains(position: Floats, law: int = CONSTANT_POWER) -> Floats:
    """Gains of both sides, 1 at the centre, shape (2, n).

    At −3 dB powers add to 2 everywhere, at −6 dB amplitudes do; −4.5 dB lies between them.

    Examples
    --------
    >>> law_gains(np.array([-100.0, 0.0])).round(3).tolist()
    [[1.414, 1.0], [0.0, 1.0]]
    """
    share = (position + 100.0) / 200.0
    angle = share * (math.pi / 2.0)
    power = np.stack([np.cos(angle), np.sin(angle)]) * math.sqrt(2.0)
    linear = np.stack([1.0 - share, share]) * 2.0
    found = (power, np.sqrt(np.maximum(0.0, power * linear)), linear)[law]
    gains: Floats = np.where(position == 0.0, 1.0, np.maximum(0.0, found))
    return gains
