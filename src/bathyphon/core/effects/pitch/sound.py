"""Pitch: higher or lower in the same time, formants going along or staying."""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.delays import delayed
from bathyphon.core.dsp.mixing import mixed
from bathyphon.core.dsp.notes import SCALES
from bathyphon.core.dsp.pitch import sizes
from bathyphon.core.dsp.scales import pulled
from bathyphon.core.effects.kit.pitch_shift import shift_by
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.effects.pitch.reach import lookahead, tuned
from bathyphon.core.speed import shifter
from bathyphon.core.speed.tracked import Shift


def _tuning(settings: Settings) -> Shift | None:
    """Semitones towards the nearest note of the scale, as far as the strength says."""
    if not tuned(settings):
        return None
    key, scale = settings.choice("key"), list(SCALES)[settings.choice("scale")]
    hop = sizes(settings.sample_rate)[2]

    def shift(notes: Floats, at: int) -> Floats:
        strength = settings.curves["tune"]
        shares = [
            strength.values(at + k * hop, 1, settings.sample_rate)[0] for k in range(notes.size)
        ]
        return np.asarray(pulled(notes, key, scale) * np.array(shares) / 100.0)

    return shift


class Pitch(Processor):
    """The sound at another pitch, beside the direct sound."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._late = lookahead(settings)
        self._waiting = np.zeros((2, self._late))
        curves = settings.curves
        change = shift_by(settings, curves["semitones"], curves["cents"], curves["formant_shift"])
        self._arriving = shifter.Arriving()
        self._shifter = shifter.Shifter(
            self._arriving, change, settings.sample_rate, _tuning(settings)
        )
        self._at: int | None = None

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Shift one block."""
        if not self._late:
            return x
        n = x.shape[1]
        if self._at is None:
            self._shifter.begin_at(at)
        self._arriving.take(x, at + self._late)
        self._at = at + n
        direct, self._waiting = delayed(self._waiting, x)
        if at + n <= 0:
            # Before the span nothing is heard.
            return direct
        wet = np.zeros((2, n))
        first = max(0, -at)
        wet[:, first:] = self._shifter.read(at + first, at + n)
        self._arriving.forget_before(self._shifter.needs(at + n))
        mix = self._settings.values("mix", at, n)
        return wet if mix.min() >= 100.0 else mixed(direct, wet, mix)

    def state(self) -> State:
        """Input that is still needed, and where it goes on."""
        at = self._at or 0
        held = self._arriving.state(self._shifter.needs(at))
        return (np.array([at]), self._waiting.copy(), *held, *self._shifter.state(at))

    def restore(self, state: State) -> None:
        """Continue from a state."""
        at, waiting, head, held, *rest = state
        self._at = int(at[0])
        self._waiting = waiting.copy()
        self._arriving.restore((head, held))
        self._shifter.restore(tuple(rest))


make = Pitch
