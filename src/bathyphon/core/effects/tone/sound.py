"""Tone: bass and treble, up or down."""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.cascade import Stack, memory_for, stacked, through
from bathyphon.core.dsp.sections import BUTTERWORTH_2, ONE, high_shelf, low_shelf
from bathyphon.core.effects.kit.engagement import swept
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.effects.tone.table import TABLE
from bathyphon.core.timing.constants import lowest

BASS_HZ, TREBLE_HZ = 250.0, 3200.0


class Tone(Processor):
    """Two shelves."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._memory = memory_for(2)
        standing = not settings.moves(*settings.curves)
        self._standing = self._sections(0, ONE) if standing else None

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Lift or lower both ends of one block."""
        stands = self._standing is not None and lowest(depth) >= 1.0
        standing = self._standing if stands else None
        return through(standing or self._sections(at, depth), x, at, self._memory)

    def _sections(self, at: int, depth: Floats) -> list[Stack]:
        s = self._settings
        rate = float(s.sample_rate)
        bass, treble = (swept(TABLE, s, id, at, depth) for id in ("bass_db", "treble_db"))
        sections = [
            low_shelf(np.full(1, BASS_HZ), bass, BUTTERWORTH_2, rate),
            high_shelf(np.full(1, TREBLE_HZ), treble, BUTTERWORTH_2, rate),
        ]
        return stacked(sections)

    def state(self) -> State:
        """Filter memories."""
        return (self._memory.copy(),)

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._memory = state[0].copy()


make = Tone
