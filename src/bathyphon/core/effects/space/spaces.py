"""The spaces that are shipped, as impulse responses computed when they are first used."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.effects.space import bodies
from bathyphon.core.effects.space.images import room_response
from bathyphon.core.effects.space.places import ROOMS

CLOSING_SAMPLES = 480

_MAKERS: dict[str, Callable[[int], Floats]] = {
    "plate": bodies.plate_response,
    "spring": bodies.spring_response,
    "pipe": bodies.pipe_response,
    "barrel": bodies.barrel_response,
}


@lru_cache(maxsize=16)
def response(name: str, sample_rate: int) -> Floats:
    """Impulse response of a shipped space.

    Parameters
    ----------
    name : str
        One of :data:`SPACES`.
    sample_rate : int

    Returns
    -------
    ndarray, shape (2, 2, n)
        Input side, output side, samples. White noise comes out about as loud as it went in.
    """
    maker = _MAKERS.get(name)
    found = maker(sample_rate) if maker else room_response(ROOMS[name], sample_rate)
    return prepared(found)


def prepared(found: Floats) -> Floats:
    """Fade the end and bring to unit energy."""
    n = found.shape[2]
    out = found.copy()
    fade = min(n, CLOSING_SAMPLES)
    out[:, :, n - fade :] *= np.cos(0.5 * np.pi * np.arange(1, fade + 1) / fade) ** 2
    # Each output hears both inputs; half of their energy for each is as loud as one alone.
    out /= np.sqrt(0.5 * np.sum(out**2))
    return out
