"""Shapes of ramps, fades and keyframes, and what all values that move agree on."""

from __future__ import annotations

import math
from typing import Literal

Scale = Literal["linear", "log", "db"]
SHAPES = {"linear": 0, "smooth": 1, "equal_power": 2, "log": 3, "bend": 4, "hold": 5}
GLIDE_SECONDS = 0.005
SILENCE_DB = -96.0
NOTHING, QUIETEST_DB = 1e-10, -200.0
"""A factor that is nothing, and the level that stands for it."""


def glide_samples(sample_rate: int) -> int:
    """Length in samples of the 5 ms smooth glide that stands for every step."""
    return max(1, round(GLIDE_SECONDS * sample_rate))


def shape_at(shape: int, bend: float, u: float) -> float:
    """Value in [0, 1] of a shape at progress ``u`` in [0, 1] (ENGINE rules, section 3).

    Plain: :mod:`~bathyphon.core.timing.sampling` compiles it for whole blocks.

    Parameters
    ----------
    shape : int
        One of the numbers of :data:`SHAPES`.
    bend : float
        From −1, late, to 1, early; for ``bend`` alone.
    u : float

    Examples
    --------
    >>> shape_at(SHAPES["smooth"], 0.0, 0.25)
    0.15625
    """
    if u <= 0.0:
        return 0.0
    if u >= 1.0:
        return 1.0
    if shape == 1:
        return u * u * (3.0 - 2.0 * u)
    if shape == 2:
        return math.sin(math.pi * u * 0.5)
    if shape == 3:
        return float((10.0 ** (2.0 * u) - 1.0) / 99.0)
    if shape == 4:
        return float(u ** (4.0**bend))
    if shape == 5:
        return 0.0
    return u


def eased_at(shape: int, bend: float, soft: float, u: float) -> float:
    """A shape at progress ``u``, with softened ends: 0 as it is, 1 as soft as ``smooth``."""
    s = shape_at(shape, bend, u)
    if soft == 0.0:
        return s
    return s + soft * (s * s * (3.0 - 2.0 * s) - s)
