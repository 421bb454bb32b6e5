"""Live sound: one engine a reel, blocks on a fixed grid, old requests dropped."""

from __future__ import annotations

import math
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from typing import Any
from uuid import UUID

import numpy as np
from cachetools import LRUCache, cached
from django.conf import settings
from numpy.typing import NDArray

from bathyphon import __version__
from bathyphon.core.analysis.tiles import Name
from bathyphon.core.arrays import Floats
from bathyphon.core.edits import apply_edits, parse_command
from bathyphon.core.edits.patch import Patch
from bathyphon.core.engine.graph import build_graph
from bathyphon.core.engine.keys import Superseded
from bathyphon.core.engine.live import Live, Playing, Wanted
from bathyphon.core.engine.render import Sound
from bathyphon.core.engine.store import Store
from bathyphon.core.engine.tallies import Names, Tallies
from bathyphon.kernels import sound_version
from bathyphon.server.reels.head import Head
from bathyphon.server.sound.media import PreparedMedia
from bathyphon.server.sound.players import PIECES
from bathyphon.server.sound.shared import Shared
from bathyphon.server.sound.turns import LOOK_SECONDS, Kind, turns

MOST_ENGINES = 64
"""Reels whose plans are held; their sound is held apart, within one budget for all."""
MOST_STATES = 6
"""States of a reel, treated or not, with and without a control that is being turned."""
COMPUTED_BY = f"{__version__}+{sound_version()}"
"""A browser must not play again what other sources have computed."""
MOST_TALLIES = 100_000
"""Seconds of which it is known how loud they are: two hours and a half of eleven places."""
COLUMNS_SHARE = 1 / 8
"""Of the memory, what columns of spectra and the like take; two hours take 15 MiB, coarsely."""
SOUND_SHARE = 1 / 2
"""What sound and states are left, however many reels are open."""
OF_A_REEL = 16 * 2**20
"""Bytes, about, that a reel takes with its plans, effects at work, and what is played just now."""
PATIENT_SECONDS = 0.5
"""For so long at most a measurement gives way to those who play."""
HAND_PATIENT_SECONDS = 3.0
"""The same while a hand turns something in the reel: what is measured may be another sound soon."""
HAND_RESTS_SECONDS = 0.5
"""A hand that has asked for nothing for so long is at work no more."""

# Names say what sounds, not in which reel: what is equal in two of them is held once.
_store = Store(int(settings.BATHYPHON_MEMORY * (1 - COLUMNS_SHARE)))
_columns: Shared[Name, NDArray[np.float32]] = Shared(
    int(settings.BATHYPHON_MEMORY * COLUMNS_SHARE), lambda columns: columns.nbytes
)
_tallies: Shared[Names, Floats] = Shared(MOST_TALLIES)

Commands = list[dict[str, Any]]


@dataclass(frozen=True)
class Block:
    """Sound: planar float32 of both sides, the key that names its content, whether it is exact."""

    key: str
    pcm: bytes
    samples: int
    exact: bool = True


@dataclass(frozen=True)
class State:
    """A state of a reel at work.

    Parameters
    ----------
    head : Head
        With the edits that are not committed.
    patch : list of dict
        JSON Patch that they make.
    playing : Playing
    """

    head: Head
    patch: Patch
    playing: Playing


@dataclass(frozen=True)
class Asked:
    """Which state of a reel is asked for.

    Parameters
    ----------
    head : Head
    media : PreparedMedia
    side : {"treated", "untreated"}
    provisional : list of commands
        Edits that are not committed yet, such as a control that is being turned.
    wanted : callable
        Says whether the asker still wants it.
    """

    head: Head
    media: PreparedMedia
    side: str
    provisional: Commands = field(default_factory=list)
    wanted: Wanted = lambda: True


class ReelEngine:
    """The engine of one reel.

    One second is worked out at a time; what is wanted at once does not wait for that.
    """

    def __init__(self, sample_rate: int) -> None:
        self._live = Live(sample_rate, shared=_store, clock=time.thread_time)
        self._states: LRUCache[tuple[Any, ...], State] = LRUCache(MOST_STATES)
        self._building, self._exact, self._at_once = (threading.Lock() for _ in range(3))
        self._counting = threading.Lock()
        self._wanting = 0
        self._turned = -math.inf
        self.tallies, self.columns = _tallies, _columns

    def block(self, asked: Asked, index: int, have: str = "") -> Block | None:
        """A second of sound, or None if the asker ``have``\\ s it already.

        Parameters
        ----------
        asked : Asked
        index : int
            Block *i* holds samples ``i · rate … (i + 1) · rate − 1``.
        have : str
            Key of the content that the asker holds.

        Raises
        ------
        Superseded
            If the asker does not want it any more.
        """
        playing = self.state(asked).playing
        with self._first(), _turn(self._exact, Kind.SOON, asked.wanted) as wanted:
            key = f"{COMPUTED_BY}-{playing.key(index, wanted)}"
            if key == have:
                return None
            return _block(key, playing.block(index, wanted))

    def piece(self, asked: Asked, index: int, part: int, parts: int = 1) -> Block:
        """Some fifths of a second at once, exact or not.

        Parameters
        ----------
        asked : Asked
        index, part, parts : int
            The block, the first fifth of it, and how many.
        """
        rate = asked.head.reel.sample_rate
        start, stop = (index * rate + rate * edge // PIECES for edge in (part, part + parts))
        return self.slice(asked, start, stop)

    def stretch(self, asked: Asked, track: str | None, start: int, stop: int) -> Floats:
        """What a track plays after its gain and pan, or what is heard of all of them for None.

        It is computed second by second, so that a player is served in between.

        Returns
        -------
        ndarray of float64, shape (2, stop − start)
        """
        parts = []
        rate = asked.head.reel.sample_rate
        first = start // rate
        playing = self.state(asked).playing
        for index in range(first, -(-stop // rate)):
            with self._first(), _turn(self._exact, Kind.SOON, asked.wanted) as wanted:
                parts.append(playing.output(index, wanted, playing.graph.track(track)))
        return np.concatenate(parts, axis=1)[:, start - first * rate : stop - first * rate]

    def rows(
        self, asked: Asked, track: str | None, start: int, stop: int, until: float
    ) -> tuple[Floats, float]:
        """Levels of a stretch, as far as they can be had until a moment.

        Parameters
        ----------
        asked : Asked
        track : str or None
            After its gain and pan; what is heard of all for None.
        start, stop : int
            Samples.
        until : float
            Of :func:`time.monotonic`.

        Returns
        -------
        rows : ndarray of float64, shape (n, columns)
            See :mod:`bathyphon.core.measure.tally`.
        share : float
            How much of the stretch they cover, 0 to 1.
        """
        playing = self.state(asked).playing
        node = playing.graph.track(track)
        stop = min(stop, playing.graph.length)
        rate = playing.rate
        seconds = range(start // rate, max(start // rate + 1, -(-stop // rate)))
        done = 0
        for index in seconds:
            with self.politely(asked.wanted) as wanted:
                Tallies(playing, self.tallies, wanted).second(index, node)
            done += 1
            if time.monotonic() > until:
                break
        whole = done == len(seconds)
        reached = stop if whole else min(stop, seconds[done - 1] * rate + rate)
        with self.politely(asked.wanted) as wanted:
            tallies = Tallies(playing, self.tallies, wanted)
            rows = tallies.rows(start, max(start + 1, reached), node)
        return rows, done / len(seconds)

    @contextmanager
    def politely(self, wanted: Wanted = lambda: True) -> Iterator[Wanted]:
        """Work for somebody who can wait: whoever plays or turns something goes first, also
        meanwhile, for as long as what is yielded is asked."""
        began = time.monotonic()
        while time.monotonic() - began < self._patience():
            if not wanted():
                raise Superseded
            time.sleep(LOOK_SECONDS / 4)
        with _turn(self._exact, Kind.LONG, wanted, self._later()) as going_on:
            yield going_on

    def _later(self) -> Wanted:
        """Says whether what has begun, and can wait, had better go on later: a hand needs the
        processors. Not while somebody waits for the same lock, and not for ever."""
        since = math.inf

        def later() -> bool:
            nonlocal since
            now = time.monotonic()
            since = min(since, now)
            waits = self._hand_at_work() and not self._wanting
            if waits and now - since < HAND_PATIENT_SECONDS:
                return True
            since = math.inf
            return False

        return later

    def _hand_at_work(self) -> bool:
        return time.monotonic() - self._turned < HAND_RESTS_SECONDS

    def _patience(self) -> float:
        """Seconds for which what can wait gives way, as things are now."""
        if self._hand_at_work():
            return HAND_PATIENT_SECONDS
        return PATIENT_SECONDS if self._wanting else 0.0

    @contextmanager
    def _first(self) -> Iterator[None]:
        """Say that somebody waits for exact sound, for as long as it takes."""
        with self._counting:
            self._wanting += 1
        try:
            yield
        finally:
            with self._counting:
                self._wanting -= 1

    @property
    def live(self) -> Live:
        """What is remembered of the reel's sound."""
        return self._live

    def slice(self, asked: Asked, start: int, stop: int) -> Block:
        """Sound at once of any stretch, exact or not."""
        if asked.provisional:
            self._turned = time.monotonic()
        playing = self.state(asked).playing
        with _turn(self._at_once, Kind.AT_ONCE, asked.wanted) as wanted:
            sound, exact = playing.piece(start, stop, wanted)
            return _block("", sound, exact)

    def state(self, asked: Asked) -> State:
        """The state that is asked for, built if it is not there.

        Raises
        ------
        Refused
            If an edit that is not committed cannot be carried out.
        """
        with _alone(self._building, asked.wanted):
            digests = tuple(asked.media.digest(m.id) for m in asked.head.reel.media)
            # Media that have become ready since make another graph of the same revision.
            name = (asked.head.revision, asked.side, repr(asked.provisional or ""), digests)
            found = self._states.get(name)
            if found is None:
                head, patch = asked.head, []
                if asked.provisional:
                    commands = [parse_command(command) for command in asked.provisional]
                    edit = apply_edits(head.document, head.reel, commands)
                    head, patch = Head(head.revision, edit.document, edit.reel), edit.forward
                graph = build_graph(head.reel, asked.media, treated=asked.side == "treated")
                playing = self._live.playing(graph, asked.media)
                found = self._states[name] = State(head, patch, playing)
            return found


@contextmanager
def _turn(
    lock: threading.Lock, kind: Kind, wanted: Wanted, later: Wanted = lambda: False
) -> Iterator[Wanted]:
    """Work alone under a lock, and in turn with all other reels."""
    with _alone(lock, wanted), turns.taken(kind, wanted, later) as going_on:
        yield going_on


@contextmanager
def _alone(lock: threading.Lock, wanted: Wanted) -> Iterator[None]:
    """Wait for a lock, for as long as its sound is wanted."""
    while True:
        if not wanted():
            raise Superseded
        if lock.acquire(timeout=LOOK_SECONDS):
            break
    try:
        if not wanted():
            raise Superseded
        yield
    finally:
        lock.release()


def _block(key: str, sound: Sound, exact: bool = True) -> Block:
    return Block(key, np.ascontiguousarray(sound).tobytes(), sound.shape[1], exact)


_engines: LRUCache[tuple[UUID, int], ReelEngine] = LRUCache(MOST_ENGINES)


@cached(_engines, key=lambda reel, sample_rate: (reel, sample_rate), lock=threading.Lock())
def engine_of(reel: UUID, sample_rate: int) -> ReelEngine:
    """The engine of a reel; those used longest ago are let go."""
    open_ones = len(_engines) + 1
    memory = settings.BATHYPHON_MEMORY
    left = memory * (1 - COLUMNS_SHARE) - OF_A_REEL * open_ones
    _store.resize(int(max(memory * SOUND_SHARE, left)))
    return ReelEngine(sample_rate)


def forget_sound() -> None:
    """Let go of all that is remembered, of whichever reel."""
    _store.forget()
    _columns.forget()
    _tallies.forget()
