"""What is known by name, for whoever works at the same time."""

from __future__ import annotations

import threading
from collections.abc import Callable
from typing import Any, Generic, TypeVar

from cachetools import LRUCache

K = TypeVar("K")
V = TypeVar("V")


class Shared(Generic[K, V]):
    """Values by their names; what was used longest ago goes first. Several threads may use it.

    Parameters
    ----------
    most : int
        How much is kept, as ``size`` counts it.
    size : callable, optional
        Of a value; each counts as one if it is not given.
    """

    def __init__(self, most: int, size: Callable[[Any], int] = lambda value: 1) -> None:
        self._held: LRUCache[K, V] = LRUCache(most, getsizeof=size)
        self._lock = threading.Lock()

    def get(self, name: K, /) -> V | None:
        """What is known."""
        with self._lock:
            found: V | None = self._held.get(name)
            return found

    def forget(self) -> None:
        """Let go of everything."""
        with self._lock:
            self._held.clear()

    def __setitem__(self, name: K, value: V, /) -> None:
        with self._lock:
            self._held[name] = value
