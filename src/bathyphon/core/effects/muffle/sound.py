"""Muffle: the sound as it is heard under water, behind a wall, inside a hood."""

from __future__ import annotations

import math

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.dsp.cascade import Stack, memory_for, stacked, through
from bathyphon.core.dsp.filters import LOWEST_HZ
from bathyphon.core.dsp.mixing import levelled, widened
from bathyphon.core.dsp.sections import ONE, high_cut, low_cut
from bathyphon.core.effects.kit.engagement import swept
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.effects.muffle.table import TABLE
from bathyphon.core.timing.constants import lowest


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
        stands = self._standing is not None and lowest(depth) >= 1.0
        standing = self._standing if stands else None
        y = through(standing or self._sections(at, depth), x, at, self._memory)
        if s.moves("width") or s.fixed("width") != 100.0:
            widened(y, swept(TABLE, s, "width", at, depth))
        if s.moves("level_db") or s.fixed("level_db") != 0.0:
            levelled(y, swept(TABLE, s, "level_db", at, depth))
        return y

    def _sections(self, at: int, depth: Floats) -> list[Stack]:
        s = self._settings
        rate = float(s.sample_rate)

        def value(id: str) -> Floats:
            return swept(TABLE, s, id, at, depth)

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


make = Muffle
