"""Limit: no peak above a ceiling, not even between the samples.

The gain that each peak needs is known ahead of it; a sliding minimum and two means in a row bring
the gain there smoothly and in time, and it comes back within the release (the look-ahead limiter
of P. Hämäläinen, "Smoothing of the control signal without clipped output in digital peak
limiters", DAFx 2002).
"""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.dsp import peaks
from bathyphon.core.dsp.decibels import gain_of_db
from bathyphon.core.dsp.delays import delayed
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.effects.limit.reach import SLACK, lookahead, mean_samples

MARGIN_DB = 0.02
BLOCK = 512
NOTHING = 1e-12


@njit(cache=True, nogil=True)
def _reduce(
    peak: Floats, ceiling: Floats, release_ms: Floats, sample_rate: float, width: int,
    times: Floats, values: Floats, box: Floats, memory: Floats,
) -> None:  # pragma: no cover - compiled  # fmt: skip
    """Turn peaks into the reduction that is reached at them, 0 to 1, in place.

    ``times`` and ``values`` hold the candidates for the sliding maximum, ``box`` the two means'
    windows, ``memory`` the clock, the candidates' ends, the last reduction and both sums.
    """
    reach = 2 * width - 2 + 2 * SLACK
    size = times.size
    clock, head, tail, last = memory[0], int(memory[1]), int(memory[2]), memory[3]
    first, second = memory[4], memory[5]
    for i in range(peak.size):
        wanted = 1.0 - ceiling[i] / peak[i] if peak[i] > ceiling[i] else 0.0
        # The largest reduction wanted within reach: older, smaller candidates can go.
        while head != tail and times[head] < clock - reach:
            head = (head + 1) % size
        while head != tail and values[(tail - 1) % size] <= wanted:
            tail = (tail - 1) % size
        times[tail] = clock
        values[tail] = wanted
        tail = (tail + 1) % size
        held = values[head]
        if held >= last:
            last = held
        else:
            last += (held - last) * (1.0 - np.exp(-1000.0 / (release_ms[i] * sample_rate)))
            if last - held < NOTHING:
                last = held
        place = int(clock) % width
        first += last - box[0, place]
        box[0, place] = last
        if first < NOTHING:
            first = 0.0
        mean = first / width
        second += mean - box[1, place]
        box[1, place] = mean
        if second < NOTHING:
            second = 0.0
        peak[i] = second / width
        clock += 1.0
    memory[0], memory[1], memory[2], memory[3] = clock, head, tail, last
    memory[4], memory[5] = first, second


class Limit(Processor):
    """Both sides get the same gain, so that the image stays where it is."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._late = lookahead(settings)
        width = mean_samples(settings.sample_rate)
        self._past = np.zeros((2, peaks.PAST))
        self._candidates = np.zeros((2, 2 * width + 2 * SLACK + 2))
        self._box = np.zeros((2, width))
        self._memory = np.zeros(6)
        self._waiting = np.zeros((2, self._late))

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Limit one block."""
        s = self._settings
        n = x.shape[1]
        x = x * gain_of_db(s.values("gain_db", at + self._late, n))
        known = at + self._late - peaks.DELAY
        ceiling = gain_of_db(s.values("ceiling_db", known, n) - MARGIN_DB)
        release = s.values("release_ms", known, n)
        half, phases = peaks.filters()
        peak = np.empty(n)
        for start in range(0, n, BLOCK):
            part = slice(start, min(start + BLOCK, n))
            peaks.between(x[:, part], half, phases, self._past, peak[part])
        _reduce(
            peak, ceiling, release, float(s.sample_rate), self._box.shape[1],
            self._candidates[0], self._candidates[1], self._box, self._memory,
        )  # fmt: skip
        direct, self._waiting = delayed(self._waiting, x)
        return direct * (1.0 - peak)

    def state(self) -> State:
        """Peaks, means and what waits."""
        parts = (self._past, self._candidates, self._box, self._memory, self._waiting)
        return tuple(part.copy() for part in parts)

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._past, self._candidates, self._box, self._memory, self._waiting = (
            part.copy() for part in state
        )


make = Limit
