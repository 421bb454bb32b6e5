"""Muffle: the sound as it is heard under water, behind a wall, inside a hood."""

from __future__ import annotations

import math

import numpy as np
from numba import njit

from bathyphon.core.curves import Floats
from bathyphon.core.effects.base import Effect, Parameter, Processor, Settings, State, swept
from bathyphon.core.effects.filters import low_high_cut
from bathyphon.core.effects.mixing import levelled, widened


@njit(cache=True, nogil=True)
def _wobble(
    cutoff: Floats, octaves: Floats, rate_hz: Floats, sample_rate: float, phase: float
) -> float:  # pragma: no cover - compiled
    for i in range(cutoff.size):
        if octaves[i] > 0.0:
            cutoff[i] *= 2.0 ** (octaves[i] * math.sin(2.0 * math.pi * phase))
        phase += rate_hz[i] / sample_rate
        phase -= math.floor(phase)
    return phase


class Muffle(Processor):
    """A 24 dB/octave high cut that can waver, a 12 dB/octave low cut, level and width."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._filters = np.zeros((2, 6))
        self._phase = 0.0

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Filter one block, every control ``depth`` of its way from neutral."""
        rate = float(self._settings.sample_rate)

        def value(id: str) -> Floats:
            return swept(EFFECT, self._settings, id, at, depth)

        cutoff = value("high_cut_hz")
        self._phase = _wobble(
            cutoff, value("wobble") / 100.0, value("wobble_hz"), rate, self._phase
        )
        y = np.empty_like(x)
        low_high_cut(x, cutoff, value("low_cut_hz"), value("resonance"), rate, self._filters, y)
        widened(y, value("width"))
        levelled(y, value("level_db"))
        return y

    def state(self) -> State:
        """Filter memories and the wobble's phase."""
        return (self._filters.copy(), np.array(self._phase))

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._filters = state[0].copy()
        self._phase = float(state[1])


EFFECT = Effect(
    id="muffle",
    label="Muffle",
    engages="sweep",
    parameters=(
        Parameter(
            "amount",
            "Amount",
            "%",
            0.0,
            100.0,
            "linear",
            default=100.0,
            help="How far all the other controls are reached.",
        ),
        Parameter(
            "high_cut_hz",
            "High cut",
            "Hz",
            60.0,
            20000.0,
            "log",
            default=620.0,
            neutral=20000.0,
            help="Sound above this is taken away: the lower, the deeper.",
        ),
        Parameter(
            "level_db",
            "Level",
            "dB",
            -96.0,
            12.0,
            "db",
            default=0.0,
            neutral=0.0,
            help="Level of the muffled sound.",
        ),
        Parameter(
            "low_cut_hz",
            "Low cut",
            "Hz",
            10.0,
            2000.0,
            "log",
            default=10.0,
            neutral=10.0,
            help="Sound below this is taken away: thinner, as through a small opening.",
        ),
        Parameter(
            "resonance",
            "Resonance",
            "",
            0.5,
            8.0,
            "log",
            default=0.7071,
            neutral=0.7071,
            help="A ringing edge at the high cut; 0.71 has none.",
        ),
        Parameter(
            "wobble",
            "Wobble",
            "%",
            0.0,
            100.0,
            "linear",
            default=0.0,
            neutral=0.0,
            help="The high cut wavers like moving water; 100 % is an octave each way.",
        ),
        Parameter(
            "wobble_hz",
            "Wobble rate",
            "Hz",
            0.02,
            12.0,
            "log",
            default=0.4,
            help="How often the water moves.",
        ),
        Parameter(
            "width",
            "Width",
            "%",
            0.0,
            200.0,
            "linear",
            default=100.0,
            neutral=100.0,
            help="Stereo width; 0 % is the middle alone.",
        ),
    ),
    telling=("high_cut_hz", "level_db", "amount"),
    make=Muffle,
    lookback_s=0.25,
    help="As heard under water, behind a wall or inside a hood.",
)
