"""What all filters agree on.

States are flushed to zero far below hearing, so silence never costs more than sound.
"""

from __future__ import annotations

import math

from bathyphon.core.compiled import njit

FLUSH = 1e-30
LOWEST_HZ = 10.0
HIGHEST = 0.45
"""Of the rate."""


@njit(cache=True, nogil=True, inline="always")
def warped(freq_hz: float, sample_rate: float) -> float:  # pragma: no cover - compiled
    """Integrator gain tan(πf/fs), the frequency clamped to 10 Hz … 0.45 of the rate."""
    f = min(max(freq_hz, LOWEST_HZ), HIGHEST * sample_rate)
    return math.tan(math.pi * f / sample_rate)
