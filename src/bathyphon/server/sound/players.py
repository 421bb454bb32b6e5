"""Who asks for sound, and what of it is still wanted."""

from __future__ import annotations

import threading
from collections import Counter
from dataclasses import dataclass

from cachetools import LRUCache

PIECES = 5
"""Of a block, what a player can have at once."""


@dataclass
class _Asking:
    generation: int = 0
    outstanding: int = 0


class Players:
    """Which generation of requests each player is at, and how many it and its account have under
    way."""

    LIMIT = 2
    OF_ACCOUNT = 16
    """Many windows may be open, and each of them asks for little at once."""
    MOST = 1000

    def __init__(self) -> None:
        self._players: LRUCache[str, _Asking] = LRUCache(self.MOST)
        self._accounts: Counter[int] = Counter()
        self._lock = threading.Lock()

    def begin(self, player: str, generation: int, account: int) -> bool:
        """Note a request; false if the player or its account has too many under way."""
        with self._lock:
            if self._accounts[account] >= self.OF_ACCOUNT:
                return False
            asking = self._players.setdefault(player, _Asking())
            # What belongs to an older generation is about to be dropped and does not count, even if
            # it has been overtaken on its way.
            if generation > asking.generation:
                asking.generation, asking.outstanding = generation, 0
            if generation == asking.generation:
                if asking.outstanding >= self.LIMIT:
                    return False
                asking.outstanding += 1
            self._accounts[account] += 1
            return True

    def end(self, player: str, generation: int, account: int) -> None:
        """Note that a request has been answered, or that nobody waits for it any more."""
        with self._lock:
            self._accounts[account] -= 1
            if self._accounts[account] <= 0:
                del self._accounts[account]
            asking = self._players.get(player)
            if asking is not None and asking.generation == generation:
                asking.outstanding = max(0, asking.outstanding - 1)

    def wanted(self, player: str, generation: int) -> bool:
        """Whether a generation is still the player's newest."""
        asking = self._players.get(player)
        return asking is None or asking.generation <= generation


players = Players()
