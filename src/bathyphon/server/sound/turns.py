"""Who works out sound: no more at a time than there are processors, what is short before what is
long.

Twenty threads on two processors all end late. In turn, what must be heard at once is there at once,
a second that goes on from the one before comes next, and of what takes long each is whole before
the next one begins.
"""

from __future__ import annotations

import os
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager, nullcontext
from dataclasses import dataclass, field
from enum import IntEnum
from itertools import count

from bathyphon.core.engine.keys import Superseded
from bathyphon.core.engine.live import Wanted
from bathyphon.server.tidying import tidying

BRIEF_SECONDS = 0.1
"""What has worked for longer takes long."""
LONGEST_TURN_SECONDS = 2.0
"""What takes longer still lets the others that do have theirs in between."""
LOOK_SECONDS = 0.02
"""How often what waits looks whether it is still wanted."""
SELDOM_SECONDS = 0.1
"""The same of what takes long: many threads that look often take the time from those that work."""


class Kind(IntEnum):
    """How soon something must be there; the smaller goes first."""

    AT_ONCE = 0
    SOON = 1
    LONG = 2


@dataclass(eq=False)
class _Work:
    kind: Kind
    later: Wanted
    number: int = -1
    spent: float = 0.0
    began: float = 0.0
    go: threading.Event = field(default_factory=threading.Event)

    @property
    def order(self) -> tuple[Kind, int]:
        return self.kind, self.number


class Turns:
    """Turns at the processors.

    Parameters
    ----------
    places : int
        How many work at a time. All but one of them may be taken by what must be there at once;
        the last one is left to what would otherwise never end.
    """

    def __init__(self, places: int) -> None:
        self._places = max(2, places)
        self._lock = threading.Lock()
        self._numbers = count()
        self._working: set[_Work] = set()
        self._waiting: set[_Work] = set()

    @contextmanager
    def taken(self, kind: Kind, wanted: Wanted, later: Wanted = lambda: False) -> Iterator[Wanted]:
        """Work when it is one's turn.

        Parameters
        ----------
        kind : Kind
        wanted : callable
            Says whether the result is still wanted.
        later : callable, optional
            Says whether it had better wait just now. Meanwhile it leaves its place to others.

        Yields
        ------
        callable
            To be asked again and again instead of ``wanted``: it lets others go first meanwhile.

        Raises
        ------
        Superseded
            If it is no longer wanted before it is its turn.
        """
        work = _Work(kind, later)

        def going_on() -> bool:
            return wanted() and self._give_way(work, wanted)

        # Nobody waits for what takes long: it stands aside, and its turn may last for minutes.
        waits = nullcontext() if kind is Kind.LONG else tidying.work(kind is Kind.AT_ONCE)
        with waits:
            try:
                self._await(work, wanted)
                yield going_on
            finally:
                with self._lock:
                    self._waiting.discard(work)
                    self._working.discard(work)
                    self._hand_on()

    def _await(self, work: _Work, wanted: Wanted) -> None:
        work.go.clear()
        with self._lock:
            # Numbered as it joins the others: one that is still on its way goes before nobody.
            if work.number < 0:
                work.number = next(self._numbers)
            self._waiting.add(work)
            self._hand_on()
        pause = SELDOM_SECONDS if work.kind is Kind.LONG else LOOK_SECONDS
        while not work.go.wait(pause):
            if not wanted():
                raise Superseded
        work.began = time.monotonic()

    def _hand_on(self) -> None:
        """Let those go whose turn it is."""
        while len(self._working) < self._places:
            next_one = min(filter(self._may, self._waiting), key=lambda w: w.order, default=None)
            if next_one is None:
                return
            self._waiting.discard(next_one)
            self._working.add(next_one)
            next_one.go.set()

    def _may(self, work: _Work) -> bool:
        at_once = sum(w.kind is Kind.AT_ONCE for w in self._working)
        return work.kind is not Kind.AT_ONCE or at_once < self._places - 1

    def _give_way(self, work: _Work, wanted: Wanted) -> bool:
        """Leave the place to what goes first; whether the work is still wanted afterwards."""
        now = time.monotonic()
        work.spent, work.began = work.spent + now - work.began, now
        if work.kind is Kind.SOON and work.spent > BRIEF_SECONDS:
            work.kind = Kind.LONG
        if work.later():
            return self._stand_aside(work, wanted)
        # Whoever looks without the lock may look a moment too late, which does no harm.
        if not self._waiting or work.kind is Kind.AT_ONCE:
            return True
        with self._lock:
            if work.kind is Kind.LONG and work.spent > LONGEST_TURN_SECONDS:
                work.number, work.spent = next(self._numbers), 0.0
            self._working.discard(work)
            first = min(filter(self._may, self._waiting), key=lambda w: w.order, default=work)
            if work.order < first.order or first is work:
                self._working.add(work)
                return True
        return self._come_back(work, wanted)

    def _stand_aside(self, work: _Work, wanted: Wanted) -> bool:
        with self._lock:
            self._working.discard(work)
            self._hand_on()
        while wanted() and work.later():
            time.sleep(SELDOM_SECONDS)
        return self._come_back(work, wanted)

    def _come_back(self, work: _Work, wanted: Wanted) -> bool:
        try:
            self._await(work, wanted)
        except Superseded:
            return False
        return True


turns = Turns(os.cpu_count() or 2)
