"""A band computed chunk after chunk, from checkpoints."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

import numpy as np
from cachetools import LRUCache

from bathyphon.core.arrays import Floats
from bathyphon.core.speed.vocoder import OVERLAP, Band, State

MOST_CHECKPOINTS = 64
NEAR = 6
"""Chunks that are remembered."""
Key = TypeVar("Key")
Value = TypeVar("Value")


def near(shelf: LRUCache[Key, Value], key: Key, make: Callable[[], Value]) -> Value:
    """What is remembered under a key, made if it is not."""
    found = shelf.get(key)
    if found is None:
        found = shelf[key] = make()
    return found


class Run:
    """A band computed chunk after chunk, from checkpoints.

    Parameters
    ----------
    band : Band
    each : int
        Frames of a chunk.
    every : int
        Chunks from one checkpoint to the next; more of them once there are too many.
    frames : callable
        ``(band, first, count)``: adds frames to the band, and returns what is complete then and the
        energies that the frames should have.
    first : int
        Chunk at which the sound begins to be put together; before it there is silence.
    needed : callable
        Whether anything of a chunk is heard; where not, it is silence, and the band begins anew.
    """

    def __init__(
        self,
        band: Band,
        each: int,
        every: int,
        frames: Callable[[Band, int, int], tuple[Floats, Floats]],
        first: int,
        needed: Callable[[int], bool] = lambda c: True,
    ) -> None:
        self._band = band
        self._each = each
        self._every = every
        self._frames = frames
        self._first = first
        self._needed = needed
        self._next: int | None = None
        self._states: dict[int, State] = {}
        self._chunks: LRUCache[int, tuple[Floats, Floats]] = LRUCache(NEAR)

    def chunk(self, c: int) -> tuple[Floats, Floats]:
        """The sound of a chunk, and the energies that its frames should have."""
        if c < self._first:
            return self._silence()
        kept = self._chunks.get(c)
        if kept is not None:
            return kept
        if self._next is None or not self._next <= c <= self._next + self._every:
            self._resume(c)
        while self._next is not None and self._next < c:
            self._advance()
        return self._advance()

    def checkpoint(self, c: int) -> tuple[int, State]:
        """A chunk at or before ``c`` and the state before it, or (first, ())."""
        known = {i: s for i, s in self._states.items() if i <= c}
        at = max(known, default=self._first)
        return at, known.get(at, ())

    def forget_before(self, c: int) -> None:
        """Drop checkpoints before the last one at or before a chunk."""
        at = max((i for i in self._states if i <= c), default=None)
        if at is not None:
            self._states = {i: s for i, s in self._states.items() if i >= at}

    def start_at(self, chunk: int, state: State) -> None:
        """Forget all but a checkpoint; without a state it begins there, out of silence."""
        self._chunks.clear()
        self._states = {chunk: state} if state else {}
        self._first = self._first if state else chunk
        self._next = None

    def _resume(self, c: int) -> None:
        at = max((i for i in self._states if i <= c), default=None)
        if at is None:
            self._band.reset()
            self._next = self._first
        else:
            self._band.restore(self._states[at])
            self._next = at

    def _advance(self) -> tuple[Floats, Floats]:
        c = self._next
        assert c is not None
        if c > self._first and c % self._every == 0 and c not in self._states:
            self._states[c] = self._band.state()
            if len(self._states) > MOST_CHECKPOINTS:
                self._every *= 2
                self._states = {i: s for i, s in self._states.items() if i % self._every == 0}
        begins = c * self._each + OVERLAP // 2
        if not self._needed(c):
            self._band.reset()
            return self._kept(c, self._silence())
        # At first also the frames before, as far as they reach into this chunk.
        more = OVERLAP - 1 if self._band.empty else 0
        sound, wanted = self._frames(self._band, begins - more, self._each + more)
        return self._kept(c, (sound[:, more * self._band.hop :], wanted[more:]))

    def _silence(self) -> tuple[Floats, Floats]:
        return np.zeros((1, self._each * self._band.hop)), np.zeros(self._each)

    def _kept(self, c: int, made: tuple[Floats, Floats]) -> tuple[Floats, Floats]:
        self._next = c + 1
        self._chunks[c] = made
        return made
