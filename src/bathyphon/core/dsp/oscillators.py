"""Slow and fast oscillators whose rate may move; their phase is carried from block to block."""

from __future__ import annotations

import math

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit

EDGE_SECONDS = 0.005


@njit(cache=True, nogil=True)
def phases(
    rate_hz: Floats, sample_rate: float, phase: float, out: Floats
) -> float:  # pragma: no cover
    """Fill ``out`` with the phase in turns, 0 to 1, and return the one after it."""
    for i in range(out.size):
        out[i] = phase
        phase += rate_hz[i] / sample_rate
        phase -= math.floor(phase)
    return phase


def wave(phase: Floats, shape: int, rate_hz: Floats) -> Floats:
    """−1 to 1 at each phase in turns; the square's edges are 5 ms glides, so they do not click."""
    turn = phase - np.floor(phase)
    if shape == 0:
        found: Floats = np.sin(2.0 * np.pi * turn)
        return found
    triangle: Floats = 4.0 * np.abs(np.abs(turn - 0.25) - 0.5) - 1.0
    if shape == 1:
        return triangle
    # The triangle crosses zero at 4 · rate a second; the edge lasts so long around it.
    u = np.clip(0.5 + triangle / np.maximum(4.0 * rate_hz * EDGE_SECONDS, 1e-9), 0.0, 1.0)
    square: Floats = 2.0 * u * u * (3.0 - 2.0 * u) - 1.0
    return square
