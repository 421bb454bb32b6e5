"""Memory of computed chunks and states, within a budget; what was used longest ago goes first."""

from __future__ import annotations

from collections.abc import Iterable
from threading import Lock
from typing import Any, Generic, TypeVar

import numpy as np
from cachetools import LRUCache

from bathyphon.core.arrays import Floats
from bathyphon.core.effects.kit.processor import State

T = TypeVar("T")
DEFAULT_BUDGET = 512 * 2**20
EVERYTHING = 2**62
STATES_SHARE = 0.5
"""Of the budget, what states may take; outputs take the rest, and what states leave."""
LASTING_SHARE = 0.75
"""Of the budget, what lasting states may take: they go last."""
MOST_OF_ONE = 1 / 128
"""Of the budget, what the states of one treatment may take for each chunk: larger ones are kept
for one chunk in several only, and what lies between is computed again from there."""


class Store:
    """Outputs and states by key. Several threads may use it.

    Of the states some are to last: the few from which all others can be worked out again soon.

    Parameters
    ----------
    budget : int
        Bytes for outputs and states together.
    """

    def __init__(self, budget: int = DEFAULT_BUDGET) -> None:
        self._budget = budget
        self._outputs: _Shelf[Floats] = _Shelf()
        self._states: _Shelf[tuple[State, ...]] = _Shelf()
        self._lasting: _Shelf[tuple[State, ...]] = _Shelf()
        self._lock = Lock()

    @property
    def used(self) -> int:
        """Bytes that are taken."""
        return self._outputs.used + self._states.used + self._lasting.used

    def resize(self, budget: int) -> None:
        """From now on take no more than so many bytes."""
        with self._lock:
            self._budget = budget
            self._make_room()

    def output(self, key: bytes) -> Floats | None:
        """A remembered chunk."""
        with self._lock:
            found = self._outputs.get(key)
            return found[0] if found else None

    def keep_output(self, key: bytes, value: Floats) -> None:
        """Remember a chunk; it must not be written to afterwards."""
        value.flags.writeable = False
        with self._lock:
            self._outputs[key] = (value, value.nbytes)
            self._make_room()

    def state(self, key: bytes) -> tuple[State, ...] | None:
        """The state that is kept under a key."""
        with self._lock:
            found = self._states.get(key) or self._lasting.get(key)
            return found[0] if found else None

    def keep_state(self, key: bytes, value: tuple[State, ...], lasting: bool = False) -> int:
        """Remember a state; one that is ``lasting`` for longer than others.

        Returns
        -------
        int
            For one chunk in how many such a large state should be kept.
        """
        size = sum(_bytes(part) for part in value)
        with self._lock:
            (self._lasting if lasting else self._states)[key] = (value, size)
            self._make_room()
        every = 1
        while size / every > self._budget * MOST_OF_ONE:
            every *= 2
        return every

    def forget(self, share: float = 1.0) -> None:
        """Let go of what was used longest ago, as much as a share of all says."""
        with self._lock:
            for shelf in (self._outputs, self._states, self._lasting):
                shelf.shrink(int(shelf.used * (1.0 - share)))

    def _make_room(self) -> None:
        if self.used > self._budget:
            self._lasting.shrink(int(self._budget * LASTING_SHARE))
            self._states.shrink(max(0, int(self._budget * STATES_SHARE) - self._lasting.used))
            self._outputs.shrink(self._budget - self._lasting.used - self._states.used)


def _bytes(state: Iterable[Any]) -> int:
    return sum(np.asarray(part).nbytes for part in state)


class _Shelf(LRUCache[bytes, tuple[T, int]], Generic[T]):
    """Values with their sizes in bytes; what is used longest ago goes first."""

    def __init__(self) -> None:
        super().__init__(EVERYTHING, getsizeof=lambda held: held[1])

    @property
    def used(self) -> int:
        """Bytes that are held."""
        return int(self.currsize)

    def shrink(self, most: int) -> None:
        """Drop what was used longest ago until no more than so many bytes are used."""
        while self.currsize > most and self:
            self.popitem()
