"""Flanger and chorus: copies of the sound whose delay swings.

J. Dattorro, "Effect design, part 2: delay-line modulation and chorus", J. Audio Eng. Soc. 45,
1997: a short delay that swings makes a comb whose teeth move, longer ones make more players.
"""

from __future__ import annotations

import math

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.delays import NOWHERE, moving_voices, slewed_by
from bathyphon.core.dsp.mixing import mixed
from bathyphon.core.dsp.oscillators import phases, wave
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.effects.kit.swing_reach import LOOP_LIMIT

SHORTEST = 2.0
SLEW = 0.5


class Swinging(Processor):
    """So many voices a side, their swings evenly apart."""

    def __init__(self, settings: Settings, voices: int, swing_below: bool) -> None:
        self._settings = settings
        self._voices = voices
        self._below = swing_below
        longest = settings.curves["delay_ms"].largest * settings.sample_rate / 1000.0
        self._lines = np.zeros((2, math.ceil(1.5 * longest) + 8))
        self._write = 0
        self._phase = 0.0
        self._places = np.full((2, voices), NOWHERE)

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Add the copies to one block."""
        s = self._settings
        n = x.shape[1]
        rate = s.values("rate_hz", at, n)
        turns = np.empty(n)
        self._phase = phases(rate, float(s.sample_rate), self._phase, turns)
        middle = s.values("delay_ms", at, n) * (s.sample_rate / 1000.0)
        swing = s.values("swing", at, n) / 100.0
        apart = s.values("stereo", at, n) / 360.0
        # What moves bends the pitch like a tape: as fast as the swing does, and a little more.
        most = math.pi * middle * swing * rate / s.sample_rate + SLEW
        delay = np.empty((2, self._voices, n))
        for side in range(2):
            for v in range(self._voices):
                swung = wave(turns + side * apart + v / self._voices, 0, rate)
                # A flanger comes down to nearly nothing; a chorus swings about its delay.
                share = -0.5 * (1.0 + swung) if self._below else 0.5 * swung
                place = np.maximum(SHORTEST, middle * (1.0 + swing * share))
                self._places[side, v] = slewed_by(place, most, self._places[side, v])
                delay[side, v] = place
        feedback = np.clip(s.values("feedback", at, n) / 100.0, -LOOP_LIMIT, LOOP_LIMIT)
        wet = np.empty_like(x)
        self._write = moving_voices(x, delay, feedback, self._lines, self._write, wet)
        return mixed(x, wet, s.values("mix", at, n), scale=1.0 / math.sqrt(self._voices))

    def state(self) -> State:
        """Delay lines, their place and the swing's phase."""
        places = np.array([self._write, self._phase])
        return (self._lines.copy(), places, self._places.copy())

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._lines = state[0].copy()
        self._write = int(state[1][0])
        self._phase = float(state[1][1])
        self._places = state[2].copy()
