"""True peak: the largest value between the samples, detected at 16 times the rate."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from scipy.signal import firwin, upfirdn

from bathyphon.core.arrays import Floats

FACTOR = 16
TAPS = 64
BLOCK = 1024


def interpolator() -> Floats:
    """Low-pass that interpolates by 16, Kaiser window, 64 taps a phase, unity at DC."""
    taps = firwin(FACTOR * TAPS + 1, 1.0 / FACTOR, window=("kaiser", 9.0)) * FACTOR
    return np.asarray(taps, dtype=np.float64)


class TruePeakMeter:
    """Takes blocks in order; a stretch that cannot hold a new peak is not interpolated."""

    def __init__(self) -> None:
        self._filter = interpolator()
        phases = np.resize(np.append(self._filter, np.zeros(FACTOR)), (TAPS + 1, FACTOR))
        self._most = float(np.abs(phases).sum(axis=0).max())
        self._past = np.zeros((2, TAPS))
        self.sample_peak = 0.0
        self.true_peak = 0.0

    def add(self, sound: NDArray[np.floating]) -> None:
        """Add a block of shape (2, n)."""
        x = np.concatenate([self._past, sound.astype(np.float64)], axis=1)
        self.sample_peak = max(self.sample_peak, float(np.abs(sound).max(initial=0.0)))
        for start in range(TAPS, x.shape[1], BLOCK):
            self._look(x[:, start - TAPS : start + BLOCK])
        self._past = x[:, -TAPS:]

    def finish(self) -> None:
        """Let the last samples through."""
        self.add(np.zeros((2, TAPS)))

    def _look(self, x: Floats) -> None:
        for side in x:
            if np.abs(side).max(initial=0.0) * self._most <= self.true_peak:
                continue
            y = upfirdn(self._filter, side, up=FACTOR)
            # Only where the filter saw nothing but real samples.
            whole = y[TAPS * FACTOR : side.size * FACTOR]
            self.true_peak = max(self.true_peak, float(np.abs(whole).max(initial=0.0)))
        self.true_peak = max(self.true_peak, float(np.abs(x[:, TAPS:]).max(initial=0.0)))
