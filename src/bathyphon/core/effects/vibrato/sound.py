"""Vibrato: the pitch swings.

The delay is the integral of the pitch's swing, so cents are what the ear gets, however the swing
moves. It swings about zero: the effect looks ahead by as much as the delay can be early. What a
moving swing leaves of it besides is taken back so slowly that it is not heard.
"""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.dsp.delays import NOWHERE, moving_voices
from bathyphon.core.dsp.oscillators import phases
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.effects.vibrato.reach import (
    GUARD,
    excursion,
    farthest_swing,
    is_moving,
    lookahead,
)

BACK_SECONDS = 1.0
"""Within which a delay that is off comes back, unless that would be heard."""
BACK_CENTS = 3.0
"""By which it may bend the pitch on its way back; what is taken for a change begins at five."""
STEEP = 30.0
"""How much faster it comes back once it is farther off than one step of the swing can leave it."""


def swing_of(turns: Floats, shape: int) -> Floats:
    """Integral over a turn of a pitch that swings as the shape says; zero where it begins."""
    turn = turns - np.floor(turns)
    if shape == 0:
        found: Floats = np.sin(2.0 * np.pi * turn) / (2.0 * np.pi)
        return found
    # Square pitch, rising delay and falling delay: a triangle of height 1/4.
    triangle = np.abs(np.abs(turn - 0.25) - 0.5) - 0.25
    if shape == 2:
        return triangle
    # Triangular pitch: parabolas of height 1/8.
    half = np.where(turn < 0.5, turn, turn - 0.5)
    return np.where(turn < 0.5, 1.0, -1.0) * half * (0.5 - half) * 2.0


@njit(cache=True, nogil=True)
def _wandered(
    wanted: Floats, step: Floats, back: float, most: float, far: float, last: float
) -> float:  # pragma: no cover - compiled
    """Add up a delay's steps, in place of where it would be had the swing always been as now.

    Parameters
    ----------
    wanted : ndarray, shape (n,)
        Samples that the delay would be off its middle; overwritten by what it is.
    step : ndarray, shape (n,)
        By how much it changes: minus the swing of the pitch.
    back : float
        Share of what it is off that it comes back each sample.
    most : float
        Samples that it comes back each sample at most, as long as it is off by less than ``far``.
    last : float
        The delay before; :data:`NOWHERE` at the beginning.

    Returns
    -------
    float
        The last delay.
    """
    for i in range(wanted.size):
        last = wanted[i] if last == NOWHERE else last + step[i]
        off = last - wanted[i]
        limit = most * (1.0 + STEEP * max(0.0, abs(off) / far - 1.0))
        last -= min(max(off * back, -limit), limit)
        wanted[i] = last
    return last


class Vibrato(Processor):
    """Read a delay line at a place that swings."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._early = lookahead(settings)
        self._lines = np.zeros((2, 2 * self._early + 8))
        self._write = 0
        self._phase = 0.0
        self._moves = is_moving(settings)
        self._far = max(1.0, farthest_swing(settings))
        self._places = np.full(2, NOWHERE)
        self._turn = 0.0

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Bend the pitch of one block."""
        s = self._settings
        n = x.shape[1]
        rate = s.values("rate_hz", at, n)
        turns = np.empty(n)
        self._phase = phases(rate, float(s.sample_rate), self._phase, turns)
        reach = excursion(s.values("swing", at, n), rate, s.sample_rate)
        apart = s.values("stereo", at, n) / 360.0
        shape = s.choice("shape")
        before = np.concatenate([[self._turn], turns[:-1]]) if self._moves else turns
        self._turn = float(turns[-1]) if n else self._turn
        sides = []
        for side in range(2):
            off = -reach * swing_of(turns + side * apart, shape)
            if self._moves:
                step = off + reach * swing_of(before + side * apart, shape)
                off = self._wander(off, step, side)
            sides.append(self._early + off)
        delay = np.stack(sides)[:, None, :]
        # The line is read before the sample is written.
        wet = np.empty_like(x)
        self._write = moving_voices(x, delay, np.zeros(n), self._lines, self._write, wet)
        return wet

    def _wander(self, off: Floats, step: Floats, side: int) -> Floats:
        back = 1.0 / (BACK_SECONDS * self._settings.sample_rate)
        most = 2.0 ** (BACK_CENTS / 1200.0) - 1.0
        self._places[side] = _wandered(off, step, back, most, self._far, self._places[side])
        # However a hand may shake it, it stays within the line.
        return np.clip(off, GUARD - self._early, self._early)

    def state(self) -> State:
        """Delay line, its place, the swing's phase and where the delays have got to."""
        places = np.array([self._phase, self._turn, *self._places])
        return (self._lines.copy(), np.array(self._write), places)

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._lines = state[0].copy()
        self._write = int(state[1])
        self._phase, self._turn = float(state[2][0]), float(state[2][1])
        self._places = state[2][2:].copy()


make = Vibrato
