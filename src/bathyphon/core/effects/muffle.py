"""Muffle: the sound as it is heard under water, behind a wall, inside a hood."""

from __future__ import annotations

import math

import numpy as np
from numba import njit

from bathyphon.core.curves import Floats, least
from bathyphon.core.effects.base import Effect, Parameter, Processor, Settings, State, swept
from bathyphon.core.effects.cascade import Stack, memory_for, stacked, through
from bathyphon.core.effects.filters import LOWEST_HZ
from bathyphon.core.effects.mixing import levelled, widened
from bathyphon.core.effects.sections import ONE, high_cut, low_cut


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
        self._memory = memory_for(3)
        self._phase = 0.0
        # What is never heard of them is not computed.
        self._wavers = settings.curves["wobble"].largest > 0.0
        self._thins = settings.curves["low_cut_hz"].largest > LOWEST_HZ
        standing = not self._wavers and not settings.moves(*settings.curves)
        self._standing = self._sections(0, ONE) if standing else None

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Filter one block, every control ``depth`` of its way from neutral."""
        s = self._settings
        stands = self._standing is not None and least(depth) >= 1.0
        standing = self._standing if stands else None
        y = through(standing or self._sections(at, depth), x, at, self._memory)
        if s.moves("width") or s.fixed("width") != 100.0:
            widened(y, swept(EFFECT, s, "width", at, depth))
        if s.moves("level_db") or s.fixed("level_db") != 0.0:
            levelled(y, swept(EFFECT, s, "level_db", at, depth))
        return y

    def _sections(self, at: int, depth: Floats) -> list[Stack]:
        s = self._settings
        rate = float(s.sample_rate)

        def value(id: str) -> Floats:
            return swept(EFFECT, s, id, at, depth)

        cutoff = value("high_cut_hz")
        if self._wavers:
            cutoff = cutoff.copy()
            octaves = value("wobble") / 100.0
            self._phase = _wobble(cutoff, octaves, value("wobble_hz"), rate, self._phase)
        sections = high_cut(cutoff, value("resonance"), rate)
        if self._thins:
            sections.append(low_cut(value("low_cut_hz"), rate))
        return stacked(sections)

    def state(self) -> State:
        """Filter memories and the wobble's phase."""
        return (self._memory.copy(), np.array(self._phase))

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._memory = state[0].copy()
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
