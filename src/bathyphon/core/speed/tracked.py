"""A reading speed that follows the pitch of what is read: to a note, or by steps of a scale."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.pitch import note_of, pitch_at, reach, sizes
from bathyphon.core.speed.attacks import Read
from bathyphon.core.speed.latency import FARTHEST_ST
from bathyphon.core.speed.ratio import Ratio
from bathyphon.core.speed.vocoder import State

FINE = 4
"""Cells of the reading speed from one look at the pitch to the next."""
Shift = Callable[[Floats, int], Floats]
"""Semitones for notes; the second is the sample of the first, notes lie a step apart."""


class Tracked:
    """As :class:`~bathyphon.core.speed.pace.Ratio`, with a shift besides that follows the pitch.

    Parameters
    ----------
    ratio : Ratio
        What moves by curves.
    read : callable
        The sound whose pitch is followed.
    shift : callable
        Semitones to move by, for the notes that are heard.
    sample_rate : int
    """

    def __init__(self, ratio: Ratio, read: Read, shift: Shift, sample_rate: int) -> None:
        self._ratio = ratio
        self._read = read
        self._shift = shift
        self._rate = sample_rate
        self._hop = sizes(sample_rate)[2]
        self._cell = self._hop // FINE
        # Looks from some number on; places at the beginning of cells from the same moment on.
        self._first = -2
        self._looks = np.zeros(0)
        self._areas = np.array([float(self._first * self._hop)])

    def begin_at(self, at: int) -> None:
        """Begin shortly before a sample of the output, where nothing has been moved yet."""
        first = at // self._hop - 2
        if first > self._first:
            self._first = first
            self._areas = np.array([float(first * self._hop)])

    def _know(self, look: int) -> None:
        """Look at the pitch up to a look's number; the first two are always known."""
        look = max(look, self._first + 1)
        begin = self._first + self._looks.size
        if look < begin:
            return
        # One by one: Fourier transforms of several at once are rounded otherwise than those of one.
        found = [self._looked(number * self._hop) for number in range(begin, look + 1)]
        self._looks = np.concatenate([self._looks, *found])
        self._add_areas(begin)

    def _looked(self, at: int) -> Floats:
        """Semitones to move by at a sample, shape (1,)."""
        around = reach(self._rate) + 1
        x = self._read(at - around, at + around).sum(axis=0)
        note = note_of(pitch_at(x, np.array([around]), self._rate))
        return np.asarray(np.clip(self._shift(note, at), -FARTHEST_ST, FARTHEST_ST))

    def _add_areas(self, begin: int) -> None:
        """Places of cells between the looks that are known."""
        first = max(self._first, begin - 1)
        last = self._first + self._looks.size - 1
        if last <= first:
            return
        starts = np.arange(first * self._hop, last * self._hop, self._cell)
        middles = starts + self._cell // 2
        steps = self._speeds_at(middles.astype(float)) * self._cell
        # Added up one by one from what is there, so that it never matters where one begins.
        added = np.cumsum(np.concatenate([self._areas[-1:], steps]))
        self._areas = np.concatenate([self._areas, added[1:]])

    def _speeds_at(self, t: Floats) -> Floats:
        own = np.interp(t, self._times, self._looks)
        curve = self._ratio.speeds(0, 1)
        if self._ratio.moves:
            curve = np.array([self._ratio.speeds(int(s), 1)[0] for s in t])
        return np.asarray(curve * 2.0 ** (own / 12.0))

    @property
    def _times(self) -> Floats:
        return np.asarray(
            (self._first + np.arange(self._looks.size)) * float(self._hop), np.float64
        )

    def speeds(self, at: int, n: int) -> Floats:
        """Reading speed at samples of the output, shape (n,)."""
        self._know((at + n) // self._hop + 2)
        own = np.interp(np.arange(at, at + n), self._times, self._looks)
        return np.asarray(self._ratio.speeds(at, n) * 2.0 ** (own / 12.0))

    def at(self, t: Floats) -> Floats:
        """Places of what is read, for places of the output."""
        t = np.asarray(t, np.float64)
        if t.size:
            self._know(int(t.max()) // self._hop + 2)
        begins = self._first * self._hop
        cell = (t - begins) / self._cell
        inside = np.interp(cell, np.arange(self._areas.size), self._areas)
        return np.asarray(np.where(cell < 0.0, self._areas[0] + (t - begins), inside))

    def when(self, places: Floats) -> Floats:
        """Places of the output, for places of what is read."""
        q = np.asarray(places, np.float64)
        while q.size and self._areas[-1] <= q.max():
            self._know(self._first + self._looks.size)
        begins = self._first * self._hop
        cell = np.interp(q, self._areas, np.arange(self._areas.size))
        inside = begins + cell * self._cell
        return np.asarray(np.where(q < self._areas[0], begins + (q - self._areas[0]), inside))

    def state(self, at: int) -> State:
        """What places from a sample of the output on depend on, beside the sound."""
        look = max(self._first, min(at // self._hop - 2, self._first + self._looks.size - 1))
        kept = look - self._first
        area = self._areas[min(kept * FINE, self._areas.size - 1)]
        return (np.array([float(look), area]), self._looks[kept:].copy())

    def restore(self, state: State) -> None:
        """Continue from a state."""
        head, looks = state
        self._first = int(head[0])
        self._looks = looks[:0]
        self._areas = np.array([float(head[1])])
        if looks.size:
            self._looks = looks.copy()
            self._add_areas(self._first)
