"""Harmony: up to eight voices at other pitches beside the direct sound."""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.cascade import memory_for, stacked, through
from bathyphon.core.dsp.decibels import gain_of_db
from bathyphon.core.dsp.delays import delayed
from bathyphon.core.dsp.notes import SCALES
from bathyphon.core.dsp.pan import CONSTANT_POWER, law_gains
from bathyphon.core.dsp.scales import pulled, steps_away
from bathyphon.core.dsp.sections import butterworth_qs, high_pass, low_pass
from bathyphon.core.effects.harmony.reach import (
    degree_of,
    delay_of,
    is_shifted,
    lookahead,
    moved_by,
    note_of_voice,
    row_id,
)
from bathyphon.core.effects.harmony.table import HIGHEST_HZ, LOWEST_HZ
from bathyphon.core.effects.kit.pitch_shift import shift_by
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.speed import shifter
from bathyphon.core.speed.tracked import Shift

FLAT_Q = butterworth_qs(2)


def _stepping(settings: Settings, index: int) -> Shift | None:
    """Semitones from the notes that are heard to a voice's own, or by steps of the scale."""
    degree, note = degree_of(settings, index), note_of_voice(settings, index)
    if note is not None:
        return lambda notes, at: pulled(notes, note, "one note")
    if degree == 0:
        return None
    key, scale = settings.choice("key"), list(SCALES)[settings.choice("scale")]
    return lambda notes, at: steps_away(notes, degree, key, scale)


class Voice:
    """One voice: shifted, delayed, cut and placed."""

    def __init__(self, settings: Settings, index: int, arriving: shifter.Arriving) -> None:
        self._settings = settings
        self._index = index
        self._arriving = arriving
        self.delay = delay_of(settings, index)
        self._shifter: shifter.Shifter | None = None
        if is_shifted(settings, index):
            change = shift_by(settings, *moved_by(settings, index), late=self.delay)
            self._shifter = shifter.Shifter(
                arriving, change, settings.sample_rate, _stepping(settings, index)
            )
        self._memory = memory_for(2)

    def process(self, at: int, n: int) -> Floats:
        """Its samples from ``at`` on, shape (2, n)."""
        s, index = self._settings, self._index
        start = at - self.delay
        y = np.array((self._shifter or self._arriving).read(start, start + n))
        if start < 0:
            # What was sung before the span has no voices.
            y[:, : min(n, -start)] = 0.0
        rate = float(s.sample_rate)
        low, high = (s.values(row_id(index, id), at, n) for id in ("low_cut_hz", "high_cut_hz"))
        sections = []
        if s.moves(row_id(index, "low_cut_hz")) or low[0] > LOWEST_HZ:
            sections.append(high_pass(low, FLAT_Q, rate))
        if s.moves(row_id(index, "high_cut_hz")) or high[0] < HIGHEST_HZ:
            sections.append(low_pass(high, FLAT_Q, rate))
        if sections:
            y = through(stacked(sections), y, at, self._memory)
        gain = gain_of_db(s.values(row_id(index, "gain_db"), at, n))
        return y * gain * law_gains(s.values(row_id(index, "pan"), at, n), CONSTANT_POWER)

    def begin_at(self, at: int) -> None:
        """Say that it is first heard at a sample of the output."""
        if self._shifter:
            self._shifter.begin_at(at - self.delay)

    def needs(self, at: int) -> int:
        """First sample of the input that it may still need."""
        start = at - self.delay
        return self._shifter.needs(start) if self._shifter else start

    def state(self, at: int) -> State:
        """What its output from a sample on depends on, beside the input."""
        own = self._shifter.state(at - self.delay) if self._shifter else ()
        return (self._memory.copy(), *own)

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._memory = state[0].copy()
        if self._shifter:
            self._shifter.restore(state[1:])


class Harmony(Processor):
    """All voices and the direct sound."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._late = lookahead(settings)
        self._waiting = np.zeros((2, self._late))
        self._arriving = shifter.Arriving()
        count = settings.entries("voices")
        self._voices = [Voice(settings, i, self._arriving) for i in range(count)]
        self._at: int | None = None

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Add the voices to one block."""
        n = x.shape[1]
        if self._at is None:
            for voice in self._voices:
                voice.begin_at(at)
        self._arriving.take(x, at + self._late)
        self._at = at + n
        direct, self._waiting = delayed(self._waiting, x)
        out = direct * gain_of_db(self._settings.values("dry_db", at, n))
        first = max(0, -at)
        if first < n:
            for voice in self._voices:
                out[:, first:] += voice.process(at + first, n - first)
            self._forget()
        return out

    def _forget(self) -> int:
        at = self._at or 0
        first = min((v.needs(at) for v in self._voices), default=at)
        self._arriving.forget_before(first)
        return first

    def state(self) -> State:
        """Input that is still needed, and where each voice goes on."""
        at = self._at or 0
        states = [voice.state(at) for voice in self._voices]
        sizes = np.array([at, *(len(state) for state in states)], np.int64)
        held = self._arriving.state(self._forget())
        return (sizes, self._waiting.copy(), *held, *(part for s in states for part in s))

    def restore(self, state: State) -> None:
        """Continue from a state."""
        sizes, waiting, head, held, *rest = state
        self._at = int(sizes[0])
        self._waiting = waiting.copy()
        self._arriving.restore((head, held))
        for voice, size in zip(self._voices, sizes[1:], strict=True):
            voice.restore(tuple(rest[:size]))
            rest = rest[size:]


make = Harmony
