"""Vibrato: the pitch swings.

The delay is the integral of the pitch's swing, so cents are what the ear gets. It swings about
zero: the effect looks ahead by as much as the delay can be early.
"""

from __future__ import annotations

import math

import numpy as np

from bathyphon.core.curves import Floats
from bathyphon.core.effects.base import Effect, Parameter, Processor, Settings, State
from bathyphon.core.effects.delays import moving_voices
from bathyphon.core.effects.oscillators import SHAPES, phases

GUARD = 4


def excursion(cents: Floats, rate_hz: Floats, sample_rate: int) -> Floats:
    """Samples by which the delay of a full turn's swing could differ, per unit of its shape."""
    found: Floats = (2.0 ** (cents / 1200.0) - 1.0) * sample_rate / rate_hz
    return found


def lookahead(settings: Settings) -> int:
    """Samples by which the delay can be early."""
    cents = np.array([settings.curves["swing"].largest])
    slowest = np.array([settings.curves["rate_hz"].smallest])
    return math.ceil(float(excursion(cents, slowest, settings.sample_rate)[0]) / 4.0) + GUARD


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


class Vibrato(Processor):
    """Read a delay line at a place that swings."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._early = lookahead(settings)
        self._lines = np.zeros((2, 2 * self._early + 8))
        self._write = 0
        self._phase = 0.0

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
        delay = np.stack(
            [self._early - reach * swing_of(turns + side * apart, shape) for side in range(2)]
        )[:, None, :]
        # The line is read before the sample is written.
        wet = np.empty_like(x)
        self._write = moving_voices(x, delay, np.zeros(n), self._lines, self._write, wet)
        return wet

    def state(self) -> State:
        """Delay line, its place and the swing's phase."""
        return (self._lines.copy(), np.array(self._write), np.array(self._phase))

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._lines = state[0].copy()
        self._write = int(state[1])
        self._phase = float(state[2])


EFFECT = Effect(
    id="vibrato",
    label="Vibrato",
    engages="blend",
    parameters=(
        Parameter(
            "rate_hz", "Rate", "Hz", 0.5, 20.0, "log", default=5.5, help="Swings a second.",
        ),
        Parameter(
            "swing", "Swing", "cents", 0.0, 200.0, "linear", default=40.0,
            help="How far the pitch swings each way; 100 cents are a semitone.",
        ),
        Parameter(
            "shape", "Shape", "", 0.0, 2.0, "linear", default=0.0, movable=False, choices=SHAPES,
            help="How the pitch swings: sine is soft, triangle even, square in steps.",
        ),
        Parameter(
            "stereo", "Stereo", "°", 0.0, 180.0, "linear", default=0.0,
            help="How far apart left and right swing.",
        ),
    ),
    telling=("rate_hz", "swing"),
    make=Vibrato,
    lookback_s=0.2,
    lookahead=lookahead,
    help="The pitch swings: an old tape, a nervous voice, a drowsy radio.",
)  # fmt: skip
