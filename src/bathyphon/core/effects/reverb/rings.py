"""Delay lines as rings in one flat array, read and written by the stretch.

Each ring is hardly longer than its delay: what is read is soon overwritten, while it lies in the
processor's cache. Behind its end its beginning is repeated, so that any stretch can be read in one
piece; eight moments at once may be read and written beyond a stretch's end.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.dsp.eights import aligned, load, store

Places = NDArray[np.int64]

STRETCH = 64
"""Samples that are worked on at once, on a grid on which all rings end."""
SPARE = 8
PAD = STRETCH + 2 * SPARE
SWEEP = 16384
"""Samples between two sweeps of a ring for what has become too small to be heard."""


def layout(lengths: Places) -> tuple[Floats, Places]:
    """Empty rings for delays of at most some lengths in samples.

    Returns
    -------
    ring : ndarray
    plan : ndarray of int64, shape (3, rings)
        Where each ring begins in the array, its samples, and the position in it.
    """
    rooms = (lengths + SPARE + STRETCH - 1) // STRETCH * STRETCH
    firsts = np.cumsum(rooms + PAD) - rooms - PAD
    plan = np.stack([firsts, rooms, np.zeros_like(rooms)])
    return aligned(int((rooms + PAD).sum())), plan


@njit(cache=True, nogil=True, inline="always")
def closed(
    ring: Floats, first: int, room: int, write: int, m: int
) -> None:  # pragma: no cover - compiled
    """Repeat behind a ring's end what has been written of its beginning."""
    if write < STRETCH + SPARE:
        for j in range(first + write, first + min(write + m, STRETCH + SPARE), 8):
            store(ring, j + room, load(ring, j))


@njit(cache=True, nogil=True, inline="always")
def reading(plan: Places, k: int, delay: int) -> int:  # pragma: no cover - compiled
    """Where the k-th ring is read."""
    at: int = plan[0, k] + plan[2, k] - delay
    return at if plan[2, k] >= delay else at + plan[1, k]


@njit(cache=True, nogil=True, inline="always")
def writing(plan: Places, k: int) -> int:  # pragma: no cover - compiled
    """Where the k-th ring is written."""
    at: int = plan[0, k] + plan[2, k]
    return at


@njit(cache=True, nogil=True, inline="always")
def go_on(ring: Floats, plan: Places, k: int, m: int) -> None:  # pragma: no cover - compiled
    """Leave a stretch of the k-th ring behind that has been written."""
    room, write = plan[1, k], plan[2, k]
    closed(ring, plan[0, k], room, write, m)
    plan[2, k] = write + m if write + m < room else 0
