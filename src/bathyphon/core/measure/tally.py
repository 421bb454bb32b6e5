"""What is written down of each tenth of a second of sound, from which levels are read later.

Ten rows a second say all that loudness, peaks and correlation over any stretch need, so that a
stretch of two hours is judged without hearing it again. A row depends on the sound shortly before
it alone: rows of one second are those of the whole, whatever came before.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.arrays import Floats
from bathyphon.core.measure.between import TAPS, interpolator, largest_between
from bathyphon.core.measure.loudness import k_weighting
from bathyphon.core.measure.weighting import weighted

ROWS_A_SECOND = 10
WEIGHTED, LEFT_PEAK, RIGHT_PEAK, TRUE_PEAK, LEFT, RIGHT, BOTH, FULL = range(8)
"""Columns: K-weighted power of both sides; largest sample left and right; largest value between
the samples; mean of l², of r² and of l·r; samples at full scale."""
COLUMNS = 8
BEFORE_SECONDS = 0.25
"""The weighting's memory: what lies further back changes no digit of a row."""
FULL_SCALE = 1.0 - 2.0**-23


class Tally:
    """Takes stereo blocks in order and writes rows.

    Parameters
    ----------
    rate : int
        Samples a second.
    before : ndarray of shape (2, n), optional
        Sound just before the first block, :data:`BEFORE_SECONDS` of it; silence if not given.
    """

    def __init__(self, rate: int, before: NDArray[np.floating] | None = None) -> None:
        self.rate = rate
        self._sections = k_weighting(rate)
        self._memory = np.zeros((2, 2, 2))
        self._filter = interpolator()
        self._past = np.zeros((2, TAPS))
        self._rest: NDArray[np.float64] = np.zeros((2, 0))
        self._rows: list[Floats] = []
        self._second = 0
        if before is not None and before.shape[1]:
            weighted(before, self._sections, self._memory)
            known = before[:, -TAPS:]
            self._past[:, TAPS - known.shape[1] :] = known

    def add(self, sound: NDArray[np.floating]) -> None:
        """Add a block of shape (2, n)."""
        self._rest = np.concatenate([self._rest, sound.astype(np.float64)], axis=1)
        while self._rest.shape[1] >= (n := self._next()):
            self._write(np.ascontiguousarray(self._rest[:, :n]))
            self._rest = self._rest[:, n:]

    def finish(self) -> None:
        """Write what is left as a last row, however short, and let the last samples through."""
        if n := self._rest.shape[1]:
            self._write(np.ascontiguousarray(self._rest))
            self._rest = np.zeros((2, 0))
            self._rows[-1][WEIGHTED] *= n / max(1, self.rate // ROWS_A_SECOND)
        if self._rows:
            tail = np.concatenate([self._past, np.zeros((2, TAPS))], axis=1)
            last = max(largest_between(side, self._filter) for side in tail)
            self._rows[-1][TRUE_PEAK] = max(self._rows[-1][TRUE_PEAK], last)

    def rows(self) -> Floats:
        """Rows so far, shape (n, :data:`COLUMNS`)."""
        return np.array(self._rows).reshape(-1, COLUMNS)

    def _next(self) -> int:
        """Samples of the row that comes next: ten rows are a second, at any rate."""
        k = len(self._rows)
        return (k + 1) * self.rate // ROWS_A_SECOND - k * self.rate // ROWS_A_SECOND

    def _write(self, x: Floats) -> None:
        heard = weighted(x, self._sections, self._memory)
        around = np.concatenate([self._past, x], axis=1)
        self._past = around[:, -TAPS:]
        row = np.empty(COLUMNS)
        row[WEIGHTED] = np.mean(np.sum(heard * heard, axis=0))
        row[LEFT_PEAK], row[RIGHT_PEAK] = np.abs(x).max(axis=1)
        row[TRUE_PEAK] = max(
            row[LEFT_PEAK], row[RIGHT_PEAK], *(largest_between(s, self._filter) for s in around)
        )
        row[LEFT], row[RIGHT] = np.mean(x * x, axis=1)
        row[BOTH] = np.mean(x[0] * x[1])
        row[FULL] = np.count_nonzero(np.abs(x).max(axis=0) >= FULL_SCALE)
        self._rows.append(row)


def tally(sound: NDArray[np.floating], rate: int) -> Floats:
    """Rows of a whole sound, shape (2, n), to its last sample."""
    meter = Tally(rate)
    meter.add(sound)
    meter.finish()
    return meter.rows()
