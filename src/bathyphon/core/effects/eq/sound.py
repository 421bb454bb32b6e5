"""Equaliser: up to eight bands, each a cut, a shelf, a peak or a notch.

Peaks and shelves are those of R. Bristow-Johnson's *Audio EQ Cookbook*, as topology-preserving
state-variable filters after A. Simper, "Linear trapezoidal state variable filter" (2014); cuts are
Butterworth of the order that their slope says.
"""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.cascade import Stack, memory_for, stacked, through
from bathyphon.core.dsp.glides import glide_from
from bathyphon.core.dsp.sections import (
    ONE,
    Section,
    butterworth_qs,
    high_pass,
    high_shelf,
    low_pass,
    low_shelf,
    notch,
    peak,
)
from bathyphon.core.effects.eq.table import MAXIMALLY_FLAT, SLOPES, TABLE, TYPES
from bathyphon.core.effects.kit.engagement import swept
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.timing.constants import lowest

CUTS = (0, 4)
NEUTRAL_HZ = {0: 10.0, 4: 20000.0}
SHAPES = {"low_shelf": low_shelf, "peak": peak, "high_shelf": high_shelf}


class Eq(Processor):
    """Bands one after another."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._bands = range(settings.entries("bands"))
        count = 0
        for index in self._bands:
            cuts = settings.choice(f"bands.{index}.type") in CUTS
            count += int(SLOPES[settings.choice(f"bands.{index}.slope")]) // 12 if cuts else 1
        self._memory = memory_for(count)
        standing = not settings.moves(*settings.curves)
        self._standing = self._sections(0, ONE) if standing else None

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Filter one block."""
        stands = self._standing is not None and lowest(depth) >= 1.0
        standing = self._standing if stands else None
        return through(standing or self._sections(at, depth), x, at, self._memory)

    def _sections(self, at: int, depth: Floats) -> list[Stack]:
        return stacked([part for i in self._bands for part in self._band(i, at, depth)])

    def _band(self, index: int, at: int, depth: Floats) -> list[Section]:
        s = self._settings
        name = f"bands.{index}"
        kind = s.choice(f"{name}.type")
        rate = float(s.sample_rate)
        freq = s.values(f"{name}.freq_hz", at, depth.size)
        q = s.values(f"{name}.q", at, depth.size)
        if kind not in CUTS:
            if kind == TYPES.index("notch"):
                # A notch has no gain to glide: it is let in by its share.
                return [notch(freq, q, depth, rate)]
            gain = swept(TABLE, s, f"{name}.gain_db", at, depth)
            return [SHAPES[TYPES[kind]](freq, gain, q, rate)]
        # On its way a cut comes from the far end of the range, where it takes nothing away.
        freq = glide_from(NEUTRAL_HZ[kind], freq, depth, "log")
        qs = butterworth_qs(2 * (int(SLOPES[s.choice(f"{name}.slope")]) // 12))
        cut = low_pass if kind == TYPES.index("high_cut") else high_pass
        # The resonance is that of the sharpest section.
        own = [np.full(1, sharp) for sharp in qs[:-1]] + [qs[-1] * (q / MAXIMALLY_FLAT)]
        return [cut(freq, sharp, rate) for sharp in own]

    def state(self) -> State:
        """Filter memories."""
        return (self._memory.copy(),)

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._memory = state[0].copy()


make = Eq
