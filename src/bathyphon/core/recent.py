"""A bounded store of what was used last."""

from __future__ import annotations

import threading
from collections import OrderedDict
from typing import Generic, TypeVar

Key = TypeVar("Key")
Value = TypeVar("Value")


class Recent(Generic[Key, Value]):
    """Values by their keys; when there are too many, the least recently used goes.

    Parameters
    ----------
    most : int
        How many are kept.
    """

    def __init__(self, most: int) -> None:
        self._most = most
        self._values: OrderedDict[Key, Value] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, key: Key) -> Value | None:
        """The value of a key, which is used thereby."""
        with self._lock:
            found = self._values.get(key)
            if found is not None:
                self._values.move_to_end(key)
            return found

    def put(self, key: Key, value: Value) -> None:
        """Keep a value."""
        with self._lock:
            self._values[key] = value
            self._values.move_to_end(key)
            while len(self._values) > self._most:
                self._values.popitem(last=False)

    def clear(self) -> None:
        """Forget all, as a new process would have."""
        with self._lock:
            self._values.clear()
