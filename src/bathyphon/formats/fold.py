"""Channel layouts to stereo, by ITU-R BS.775."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

_HALF_POWER = 0.5**0.5
_SIDES = {
    "FL": (1.0, 0.0),
    "FR": (0.0, 1.0),
    "FC": (_HALF_POWER, _HALF_POWER),
    "BL": (_HALF_POWER, 0.0),
    "BR": (0.0, _HALF_POWER),
    "SL": (_HALF_POWER, 0.0),
    "SR": (0.0, _HALF_POWER),
    "BC": (0.5, 0.5),
    "FLC": (1.0, 0.0),
    "FRC": (0.0, 1.0),
    "DL": (1.0, 0.0),
    "DR": (0.0, 1.0),
}


def fold_matrix(names: Sequence[str]) -> NDArray[np.float64]:
    """Gains from the named channels to left and right, shape (2, channels).

    One channel is copied to both sides at unity; centre and surrounds of more than two come in at
    −3 dB; the low-frequency channel is left out. Channels without a known place go to the sides
    in turn.
    """
    if len(names) == 1:
        return np.ones((2, 1))
    if len(names) == 2:
        return np.eye(2)
    rows = [
        _SIDES.get(name, (0.0, 0.0) if "LFE" in name else _by_turn(i))
        for i, name in enumerate(names)
    ]
    return np.array(rows).T


def fold(sound: NDArray[np.float32], names: Sequence[str]) -> NDArray[np.float32]:
    """Fold sound of shape (channels, n) to stereo, shape (2, n)."""
    if len(names) == 2:
        return sound
    matrix = fold_matrix(names)
    out = np.zeros((2, sound.shape[1]))
    for channel in range(sound.shape[0]):
        for side in range(2):
            if matrix[side, channel]:
                out[side] += matrix[side, channel] * sound[channel]
    return out.astype(np.float32)


def _by_turn(index: int) -> tuple[float, float]:
    return (1.0, 0.0) if index % 2 == 0 else (0.0, 1.0)
