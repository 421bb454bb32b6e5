"""When Python looks for what has gone: while nobody waits for sound.

What refers to itself in a circle is only found by looking through everything. After minutes of
turning a control that takes a second, in which no thread does anything else: sound would stop. So
the server looks when it is at rest, and during work no further than through what is new.
"""

from __future__ import annotations

import gc
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager

YOUNG_OBJECTS = 20_000
"""New objects among which Python looks at any time, in some milliseconds."""
MOST_YOUNG, MOST_MIDDLE = 200, 50
"""How often it does so at most before it looks further, if there is never any rest."""
ENOUGH_YOUNG = 10
"""How often it has done so when the next rest is made use of."""
SHORT_REST_SECONDS, LONG_REST_SECONDS = 1.0, 30.0
"""After the first, what has come since the last rest is looked through; after the second, all."""
LOOK_SECONDS = 0.25


class Tidying:
    """Knows who is at work on sound, and looks for what has gone at rest.

    Parameters
    ----------
    clock : callable, optional
        Seconds that go by.
    """

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        self._clock = clock
        self._lock = threading.Lock()
        self._working = 0
        self._soon = self._late = clock()

    @contextmanager
    def work(self, at_once: bool) -> Iterator[None]:
        """Say that somebody waits for sound, or works it out, for as long as this lasts.

        Parameters
        ----------
        at_once : bool
            Whether it is for a hand or a playhead that cannot wait: the next of it comes soon.
        """
        with self._lock:
            self._working += 1
        try:
            yield
        finally:
            with self._lock:
                self._working -= 1
                self._late = self._clock()
                if at_once:
                    self._soon = self._late

    def tidy(self) -> int | None:
        """Look for what has gone, as far as this is the moment.

        Returns
        -------
        int or None
            The oldest generation that has been looked through; None if this is not the moment.
        """
        with self._lock:
            now = self._clock()
            if self._working or now - self._soon < SHORT_REST_SECONDS:
                return None
            long = now - self._late >= LONG_REST_SECONDS
        _, young, middle = gc.get_count()
        if long and (young or middle):
            # What is here now stays, mostly: the next short rest need not look through it.
            gc.unfreeze()
            gc.collect()
            gc.freeze()
            return 2
        if young >= ENOUGH_YOUNG:
            gc.collect(1)
            return 1
        return None

    def begin(self) -> None:
        """Look at rest from now on, as long as the process lives."""
        gc.freeze()
        gc.set_threshold(YOUNG_OBJECTS, MOST_YOUNG, MOST_MIDDLE)
        threading.Thread(target=self._go_on, name="tidying", daemon=True).start()

    def _go_on(self) -> None:
        while True:
            time.sleep(LOOK_SECONDS)
            self.tidy()


tidying = Tidying()
