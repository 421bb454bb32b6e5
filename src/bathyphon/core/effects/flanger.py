"""Flanger and chorus: copies of the sound whose delay swings.

J. Dattorro, "Effect design, part 2: delay-line modulation and chorus", J. Audio Eng. Soc. 45,
1997: a short delay that swings makes a comb whose teeth move, longer ones make more players.
"""

from __future__ import annotations

import math

import numpy as np

from bathyphon.core.curves import Floats
from bathyphon.core.effects.base import (
    TAIL_FALL_DB,
    Effect,
    Parameter,
    Processor,
    Settings,
    State,
)
from bathyphon.core.effects.delays import NOWHERE, moving_voices, slewed_by
from bathyphon.core.effects.mixing import mixed
from bathyphon.core.effects.oscillators import phases, wave

SHORTEST = 2.0
LOOP_LIMIT = 0.97
SLEW = 0.5


def lasts(settings: Settings) -> int:
    """Samples until copies of copies have fallen 90 dB."""
    feedback = settings.curves["feedback"]
    share = min(LOOP_LIMIT, max(abs(feedback.largest), abs(feedback.smallest)) / 100.0)
    longest = 1.5 * settings.curves["delay_ms"].largest * settings.sample_rate / 1000.0
    again = TAIL_FALL_DB / (-20.0 * math.log10(share)) if share > 0.0 else 0.0
    return math.ceil(longest * (1.0 + again))


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


EFFECT = Effect(
    id="flanger",
    label="Flanger",
    engages="blend",
    parameters=(
        Parameter(
            "rate_hz", "Rate", "Hz", 0.02, 10.0, "log", default=0.25, help="Swings a second.",
        ),
        Parameter(
            "swing", "Swing", "%", 0.0, 100.0, "linear", default=85.0,
            help="How far the delay comes down on its way.",
        ),
        Parameter(
            "feedback", "Feedback", "%", -95.0, 95.0, "linear", default=45.0,
            help="How sharp the comb is; below zero it sounds hollow.",
        ),
        Parameter(
            "delay_ms", "Delay", "ms", 0.2, 15.0, "log", default=4.0,
            help="The longest delay: the longer, the deeper the comb begins.",
        ),
        Parameter(
            "stereo", "Stereo", "°", 0.0, 180.0, "linear", default=60.0,
            help="How far apart left and right swing.",
        ),
        Parameter(
            "mix", "Mix", "%", 0.0, 100.0, "linear", default=50.0,
            help="At 50 % direct sound and copy are equally loud, and the comb is deepest.",
        ),
    ),
    telling=("rate_hz", "swing"),
    make=lambda settings: Swinging(settings, 1, swing_below=True),
    lasts=lasts,
    lookback_s=0.2,
    help="A comb that sweeps through the sound: jet engines, dreams, dizziness.",
)  # fmt: skip
