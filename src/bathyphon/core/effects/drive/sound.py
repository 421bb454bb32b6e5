"""Drive: an amplifier, a loudspeaker or a tape that is asked for too much.

The wave is bent at four times the rate, and between its samples by differences of the curve's
second antiderivative (J. D. Parker, V. Zavalishin and E. Le Bivic, "Reducing the aliasing of
nonlinear waveshaping using continuous-time convolution", DAFx 2016; S. Bilbao, F. Esqueda, J. D.
Parker and V. Välimäki, "Antiderivative antialiasing for memoryless nonlinearities", IEEE Signal
Processing Letters 24, 2017), so what it adds are harmonics and little else.
"""

from __future__ import annotations

import math

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.dsp import oversampling
from bathyphon.core.dsp.decibels import gain_of_db
from bathyphon.core.dsp.delays import delayed
from bathyphon.core.dsp.filters import FLUSH, warped
from bathyphon.core.dsp.latency import FACTOR
from bathyphon.core.dsp.mixing import mixed
from bathyphon.core.effects.drive.table import OPEN_HZ
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings

# Where the soft curve, a cubic, has become level.
KNEE = 1.5
BLOCK = 1024
SMALL_STEP = 1e-3


@njit(cache=True, nogil=True, inline="always")
def curve(shape: int, v: float) -> float:  # pragma: no cover - compiled
    """What comes out for ``v``: near zero always ``v`` itself."""
    if shape == 0:
        size = abs(v)
        return v - 4.0 / 27.0 * v * v * v if size < KNEE else math.copysign(1.0, v)
    if shape == 1:
        return min(max(v, -1.0), 1.0)
    return math.sin(v)


@njit(cache=True, nogil=True, inline="always")
def first_integral(shape: int, v: float) -> float:  # pragma: no cover - compiled
    """Integral of :func:`curve` from 0 to ``v``."""
    if shape == 0:
        size = abs(v)
        if size < KNEE:
            return 0.5 * v * v - v * v * v * v / 27.0
        return size - 0.5625
    if shape == 1:
        size = abs(v)
        return 0.5 * v * v if size <= 1.0 else size - 0.5
    return -math.cos(v)


@njit(cache=True, nogil=True, inline="always")
def second_integral(shape: int, v: float) -> float:  # pragma: no cover - compiled
    """Integral of :func:`first_integral`."""
    if shape == 0:
        size = abs(v)
        if size < KNEE:
            return v * v * v / 6.0 - v * v * v * v * v / 135.0
        return math.copysign(0.5 * size * size - 0.5625 * size + 0.225, v)
    if shape == 1:
        size = abs(v)
        if size <= 1.0:
            return v * v * v / 6.0
        return math.copysign(0.5 * size * size - 0.5 * size + 1.0 / 6.0, v)
    return -math.sin(v)


@njit(cache=True, nogil=True, inline="always")
def steepness(shape: int, v: float) -> float:  # pragma: no cover - compiled
    """Derivative of :func:`curve`."""
    if shape == 0:
        return 1.0 - 4.0 / 9.0 * v * v if abs(v) < KNEE else 0.0
    if shape == 1:
        return 1.0 if abs(v) < 1.0 else 0.0
    return math.cos(v)


@njit(cache=True, nogil=True, inline="always")
def _slope(shape: int, a: float, b: float, at_a: float, at_b: float) -> float:  # pragma: no cover
    """Mean of :func:`first_integral` between ``a`` and ``b``."""
    step = a - b
    if abs(step) > SMALL_STEP:
        return float((at_a - at_b) / step)
    middle = 0.5 * (a + b)
    # The next term of the series, without which the second difference would be wrong.
    return float(first_integral(shape, middle) + steepness(shape, middle) * step * step / 24.0)


@njit(cache=True, nogil=True)
def _bend(x: Floats, gain: Floats, shape: int, memory: Floats) -> None:  # pragma: no cover
    """Bend a fast stream in place; ``gain`` is at the slow rate, ``memory`` the last two inputs."""
    b, c = memory[0], memory[1]
    at_b = second_integral(shape, b)
    old = _slope(shape, b, c, at_b, second_integral(shape, c))
    for i in range(x.size):
        a = x[i] * gain[i // FACTOR]
        at_a = second_integral(shape, a)
        new = _slope(shape, a, b, at_a, at_b)
        if abs(a - c) > SMALL_STEP:
            y = 2.0 * (new - old) / (a - c)
        else:
            # For small steps all of it is the curve at their mean.
            y = curve(shape, (a + b + c) / 3.0)
        x[i] = y
        b, c = a, b
        at_b = at_a
        old = new
    memory[0], memory[1] = b, c


@njit(cache=True, nogil=True)
def _darken(
    x: Floats, freq_hz: Floats, sample_rate: float, state: Floats
) -> None:  # pragma: no cover - compiled
    """One-pole low-pass of both sides in place, left out entirely at the end of its range."""
    for side in range(2):
        row = x[side]
        m = state[side]
        last = -1.0
        gain = share = 0.0
        for i in range(row.size):
            if freq_hz[i] != last:
                last = freq_hz[i]
                g = warped(last, sample_rate)
                gain = g / (1.0 + g)
                u = min(max((OPEN_HZ - last) / 4000.0, 0.0), 1.0)
                share = u * u * (3.0 - 2.0 * u)
            v = (row[i] - m) * gain
            low = v + m
            m = low + v
            row[i] += share * (low - row[i])
            if abs(m) < FLUSH:
                m = 0.0
        state[side] = m


class Drive(Processor):
    """Up, bend, down, darken, mix with the direct sound as late as the bent one."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._up = np.zeros((2, oversampling.PAST))
        self._down = np.zeros((2, FACTOR, oversampling.PAST))
        self._last = np.zeros((2, 2))
        self._tone = np.zeros(2)
        self._direct = np.zeros((2, oversampling.DELAY))

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Overdrive one block."""
        s = self._settings
        n = x.shape[1]
        up, down = oversampling.filters()
        amount = s.values("amount_db", at, n)
        gain = gain_of_db(amount)
        shape = s.choice("shape")
        y = np.empty((2, n))
        fast = np.empty(FACTOR * min(n, BLOCK))
        for start in range(0, n, BLOCK):
            stop = min(start + BLOCK, n)
            some = fast[: FACTOR * (stop - start)]
            for side in range(2):
                part = np.ascontiguousarray(x[side, start:stop])
                oversampling.up(part, up, self._up[side], some)
                _bend(some, gain[start:stop], shape, self._last[side])
                oversampling.down(some, down, self._down[side], y[side, start:stop])
        # Half of the gain is taken back: about as loud as before, and denser.
        y *= gain_of_db(-0.5 * amount)
        _darken(y, s.values("tone_hz", at, n), float(s.sample_rate), self._tone)
        direct, self._direct = delayed(self._direct, x)
        return mixed(direct, y, s.values("mix", at, n))

    def state(self) -> State:
        """Filter memories, the last input and what waits."""
        parts = (self._up, self._down, self._last, self._tone, self._direct)
        return tuple(part.copy() for part in parts)

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._up, self._down, self._last, self._tone, self._direct = (p.copy() for p in state)


make = Drive
