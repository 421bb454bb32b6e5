"""Telephone: a voice on a line, a two-way radio, a small loudspeaker, a horn.

The band is that of ITU-T G.712 by default; roughness comes from companding with few bits after
ITU-T G.711 (µ-law).
"""

from __future__ import annotations

import math

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.dsp.cascade import memory_for, stacked, through
from bathyphon.core.dsp.decibels import gain_of_db
from bathyphon.core.dsp.sections import butterworth_qs, high_pass, low_pass
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.effects.telephone.table import BITS_OFF

MU = 255.0
TRIANGULAR_RMS = math.sqrt(1.0 / 6.0)
# Eighth and fourth order, half of the sections before the line's faults and half after them: as
# a whole they are Butterworth, so the band's edges lie at −3 dB.
# The most resonant come first, so that they do not ring on noise and distortion.
HIGH_QS, LOW_QS = butterworth_qs(8)[[0, 3, 1, 2]], butterworth_qs(4)[::-1].copy()


@njit(cache=True, nogil=True, inline="always")
def _uniform(counter: int, seed: int) -> float:  # pragma: no cover - compiled
    """A number in [−1, 1) that depends on the counter and the seed alone (splitmix64)."""
    z = np.uint64(counter) * np.uint64(0x9E3779B97F4A7C15) + np.uint64(seed)
    z = (z ^ (z >> np.uint64(30))) * np.uint64(0xBF58476D1CE4E5B9)
    z = (z ^ (z >> np.uint64(27))) * np.uint64(0x94D049BB133111EB)
    z = z ^ (z >> np.uint64(31))
    return float(z >> np.uint64(11)) / 4503599627370496.0 - 1.0


@njit(cache=True, nogil=True)
def _line(
    x: Floats, at: int, drive: Floats, noise: Floats, bits: Floats, seed: int
) -> None:  # pragma: no cover - compiled
    """Noise, overdrive and coarse companding of one voice, in place."""
    scale = math.log1p(MU)
    for i in range(x.size):
        hiss = _uniform(2 * (at + i), seed) + _uniform(2 * (at + i) + 1, seed)
        v = x[i] + noise[i] * 0.5 * hiss
        if drive[i] > 1.0:
            # Unchanged for small signals: what is driven is the loud.
            v = math.tanh(v * drive[i]) / drive[i] ** 0.5
        if bits[i] < BITS_OFF:
            steps = 2.0 ** (bits[i] - 1.0)
            y = math.log1p(MU * min(abs(v), 1.0)) / scale
            y = np.rint(y * steps) / steps
            v = math.copysign(math.expm1(y * scale) / MU, v)
        x[i] = v


class Telephone(Processor):
    """One voice through a narrow band with the line's faults."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._memories = [memory_for(3), memory_for(3)]

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Send one block down the line; both sides hear the same."""
        s = self._settings
        n = x.shape[1]
        rate = float(s.sample_rate)
        low, high = s.values("low_hz", at, n), s.values("high_hz", at, n)
        # The level of the hiss that gets through, however wide the line is.
        in_band = np.sqrt(0.5 * rate / np.maximum(high - low, 100.0)) / TRIANGULAR_RMS
        middle = 0.5 * (x[0] + x[1])
        y = np.stack([middle, middle])
        for half in range(2):
            sections = [
                high_pass(low, LOW_QS[half : half + 1], rate),
                low_pass(high, HIGH_QS[2 * half : 2 * half + 1], rate),
                low_pass(high, HIGH_QS[2 * half + 1 : 2 * half + 2], rate),
            ]
            y = through(stacked(sections), y, at, self._memories[half])
            if half == 0:
                _line(
                    y[0],
                    at,
                    gain_of_db(s.values("drive_db", at, n)),
                    gain_of_db(s.values("noise_db", at, n)) * in_band,
                    s.values("bits", at, n),
                    s.seed,
                )
                y[1] = y[0]
        return y * gain_of_db(s.values("level_db", at, n))

    def state(self) -> State:
        """Filter memories."""
        return tuple(memory.copy() for memory in self._memories)

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._memories = [memory.copy() for memory in state]


make = Telephone
