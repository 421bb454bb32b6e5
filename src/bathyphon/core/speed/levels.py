"""Giving stretched noise its level back.

Frames of noise that are turned no longer agree where they lie over one another, and lose up to
3 dB; partials lose nothing.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit

SMOOTHED = 5
"""Frames over which a loss of level is smoothed."""
MOST_GAIN = 1.6
"""4 dB: what is lost where nothing agrees, and some more for single frames."""
FLOOR = 1e-12
"""Mean power of changes below which a frame's level is left as it is."""

_kernel: Any = njit(cache=True, nogil=True)


@_kernel
def _energies(x: Any, first: int, hop: int, shape: Any, out: Any) -> None:  # pragma: no cover
    """Energy of changes under a window, the m-th from ``first + m · hop`` on.

    Of changes, since the bass is strong, is seldom noise, and may be made elsewhere.
    """
    for m in range(out.size):
        total = 0.0
        for c in range(x.shape[0]):
            last = 0.0
            for k in range(shape.size):
                value = x[c, first + m * hop + k] * shape[k]
                total += (value - last) * (value - last)
                last = value
        out[m] = total


@_kernel
def energies_of(cut: Any, out: Any) -> None:  # pragma: no cover - compiled
    """Energy of changes of windowed frames, shape (m, channels, frame), summed over channels."""
    for m in range(cut.shape[0]):
        total = 0.0
        for c in range(cut.shape[1]):
            last = 0.0
            for k in range(cut.shape[2]):
                value = cut[m, c, k]
                total += (value - last) * (value - last)
                last = value
        out[m] = total


def frames_around(samples: int, hop: int) -> tuple[int, int]:
    """Frames from … to (exclusive) whose energies decide the level of so many samples.

    Counted from the frame whose middle is the first of these samples.
    """
    half = SMOOTHED // 2
    return -half, samples // hop + 1 + half


def levelled(
    x: Floats, before: int, samples: int, wanted: Floats, shape: Floats, hop: int
) -> Floats:
    """Samples of a sound whose frames have their energy again.

    Parameters
    ----------
    x : ndarray of float64, shape (channels, n)
        Holds all frames that :func:`frames_around` names.
    before : int
        Samples of ``x`` before the first of those asked for.
    samples : int
        A multiple of ``hop``.
    wanted : ndarray of float64
        Energies that those frames should have.
    shape : ndarray of float64, shape (frame,)
    hop : int

    Returns
    -------
    ndarray of float64, shape (channels, samples)
    """
    low, high = frames_around(samples, hop)
    found = np.empty(high - low)
    _energies(x, before + low * hop - shape.size // 2, hop, shape, found)
    floor = FLOOR * shape.size * x.shape[0]
    gain = np.sqrt((wanted + floor) / (found + floor))
    gain = np.lib.stride_tricks.sliding_window_view(gain, SMOOTHED).sum(axis=-1) / SMOOTHED
    gain = np.clip(gain, 1.0, MOST_GAIN)
    inside = x[:, before : before + samples]
    if gain.max() == 1.0:
        return inside.copy()
    # From the middle of one frame to the next in a straight line.
    part = np.arange(hop) / hop
    steps = gain[:-1, None] + part * np.diff(gain)[:, None]
    return np.asarray(inside * steps.reshape(-1))
