"""Memory of computed chunks and states, within a budget; what was used longest ago goes first."""

from __future__ import annotations

from collections import OrderedDict
from typing import Generic, TypeVar

import numpy as np

from bathyphon.core.curves import Floats
from bathyphon.core.effects.base import State

T = TypeVar("T")
DEFAULT_BUDGET = 512 * 2**20


class Store:
    """Outputs and states by key.

    Parameters
    ----------
    budget : int
        Bytes for outputs and as many for states.
    """

    def __init__(self, budget: int = DEFAULT_BUDGET) -> None:
        self._outputs: _Shelf[Floats] = _Shelf(budget)
        self._states: _Shelf[tuple[State, ...]] = _Shelf(budget)

    def output(self, key: bytes) -> Floats | None:
        """A remembered chunk."""
        return self._outputs.get(key)

    def keep_output(self, key: bytes, value: Floats) -> None:
        """Remember a chunk; it must not be written to afterwards."""
        value.flags.writeable = False
        self._outputs.put(key, value, value.nbytes)

    def state(self, key: bytes) -> tuple[State, ...] | None:
        """The state after the chunk of that key."""
        return self._states.get(key)

    def keep_state(self, key: bytes, value: tuple[State, ...]) -> None:
        """Remember the state after the chunk of that key."""
        self._states.put(key, value, sum(np.asarray(a).nbytes for part in value for a in part))


class _Shelf(Generic[T]):
    def __init__(self, budget: int) -> None:
        self._budget = budget
        self._used = 0
        self._items: OrderedDict[bytes, tuple[T, int]] = OrderedDict()

    def get(self, key: bytes) -> T | None:
        found = self._items.get(key)
        if found is None:
            return None
        self._items.move_to_end(key)
        return found[0]

    def put(self, key: bytes, value: T, size: int) -> None:
        if key in self._items:
            self._used -= self._items.pop(key)[1]
        self._items[key] = (value, size)
        self._used += size
        while self._used > self._budget and len(self._items) > 1:
            self._used -= self._items.popitem(last=False)[1][1]
