"""Tremolo: the level swings."""

from __future__ import annotations

import numpy as np

from bathyphon.core.curves import Floats
from bathyphon.core.effects.base import Effect, Parameter, Processor, Settings, State
from bathyphon.core.effects.oscillators import SHAPES, phases, wave


class Tremolo(Processor):
    """Multiply by a slow wave; at the top of its swing the sound is left as it is."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._shape = settings.choice("shape")
        self._phase = 0.0

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Swing one block."""
        s = self._settings
        n = x.shape[1]
        rate = s.values("rate_hz", at, n)
        turns = np.empty(n)
        self._phase = phases(rate, float(s.sample_rate), self._phase, turns)
        apart = s.values("stereo", at, n) / 360.0
        swing = s.values("swing", at, n) / 100.0
        # It begins at the top, so that nothing jumps where it sets in.
        both = np.stack([turns, turns + apart]) + 0.25
        return x * (1.0 - swing * (0.5 - 0.5 * wave(both, self._shape, rate)))

    def state(self) -> State:
        """The wave's phase."""
        return (np.array(self._phase),)

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._phase = float(state[0])


EFFECT = Effect(
    id="tremolo",
    label="Tremolo",
    engages="blend",
    parameters=(
        Parameter(
            "rate_hz", "Rate", "Hz", 0.05, 40.0, "log", default=5.0, help="Swings a second.",
        ),
        Parameter(
            "swing", "Swing", "%", 0.0, 100.0, "linear", default=60.0,
            help="How far the level falls; at 100 % down to silence.",
        ),
        Parameter(
            "shape", "Shape", "", 0.0, 2.0, "linear", default=0.0, movable=False, choices=SHAPES,
            help="Sine is soft, triangle even, square chops.",
        ),
        Parameter(
            "stereo", "Stereo", "°", 0.0, 180.0, "linear", default=0.0,
            help="At 180° left and right take turns.",
        ),
    ),
    telling=("rate_hz", "swing"),
    make=Tremolo,
    help="The level swings: a helicopter, a fan, a nervous light.",
)  # fmt: skip
