"""Which of many parts sound in a stretch of time."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np


class Stretches:
    """Parts with a beginning and an end, found by the stretch that they touch.

    Parameters
    ----------
    bounds : sequence of (int, int)
        First sample of each part, and the one after its last.
    """

    def __init__(self, bounds: Sequence[tuple[int, int]]) -> None:
        places = np.array(bounds, np.int64).reshape(-1, 2)
        self._begins, self._ends = places[:, 0].copy(), places[:, 1].copy()
        self._last: tuple[tuple[int, int], list[int]] = ((0, 0), [])

    def touching(self, start: int, stop: int) -> list[int]:
        """Numbers of the parts that share a sample with ``[start, stop)``, rising."""
        # Everything that is asked about a chunk is asked several times.
        asked, found = self._last
        if asked != (start, stop):
            found = np.flatnonzero((self._begins < stop) & (self._ends > start)).tolist()
            self._last = ((start, stop), found)
        return found
