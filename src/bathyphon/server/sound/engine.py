"""Live sound: one engine a reel, blocks on a fixed grid, old requests dropped."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any
from uuid import UUID

import numpy as np
from django.contrib.auth.models import User

from bathyphon import ENGINE
from bathyphon.core.curves import Floats
from bathyphon.core.edits import apply_edit, parse_command
from bathyphon.core.engine.graph import Graph, build_graph
from bathyphon.core.engine.render import to_float32
from bathyphon.core.engine.runner import Runner
from bathyphon.core.engine.store import Store
from bathyphon.server.reels.head import Head
from bathyphon.server.sound.media import PreparedMedia

MOST_ENGINES = 4
PIECES_A_SECOND = 10


@dataclass(frozen=True)
class Block:
    """One second of sound: planar float32 of both sides, and the key that names its content."""

    key: str
    pcm: bytes
    samples: int


@dataclass
class ReelEngine:
    """The engine of one reel; one request is computed at a time."""

    store: Store = field(default_factory=Store)
    lock: threading.Lock = field(default_factory=threading.Lock)
    _graphs: OrderedDict[tuple[Any, ...], tuple[Runner, Graph]] = field(default_factory=OrderedDict)

    def block(
        self,
        account: User,
        head: Head,
        side: str,
        index: int,
        have: str,
        wanted: Callable[[], bool],
        provisional: list[dict[str, Any]] | None = None,
    ) -> Block | None:
        """A block of the head's sound, or None if the asker ``have``\\ s it already.

        Parameters
        ----------
        side : {"treated", "untreated"}
        index : int
            Block *i* holds samples ``i · rate … (i + 1) · rate − 1``.
        have : str
            Key of the content that the asker holds.
        wanted : callable
            Says whether the asker still wants it.
        provisional : list of commands, optional
            Edits that are not committed yet, such as a control that is being turned.
        """
        with self.lock:
            runner, graph = self._graph(account, head, side, provisional)
            rate = runner.grid
            runner.wanted = wanted
            key = f"{ENGINE}-{runner.key(graph.out, index).hex()}"
            samples = max(0, min(rate, graph.length - index * rate))
            key = f"{key}-{samples}"
            if key == have:
                return None
            sound = to_float32(runner.output(graph.out, index))[:, :samples]
            return Block(key, np.ascontiguousarray(sound).tobytes(), samples)

    def stretch(
        self, account: User, head: Head, side: str, track: str | None, start: int, stop: int
    ) -> Floats:
        """What a track plays after its gain and pan, or what is heard of all of them for None.

        It is computed second by second, so that a player is served in between.

        Returns
        -------
        ndarray of float64, shape (2, stop − start)
        """
        parts = []
        rate = head.reel.sample_rate
        first = start // rate
        for index in range(first, -(-stop // rate)):
            with self.lock:
                runner, graph = self._graph(account, head, side, None)
                runner.wanted = lambda: True
                parts.append(runner.output(graph.track(track), index))
        return np.concatenate(parts, axis=1)[:, start - first * rate : stop - first * rate]

    def _graph(
        self,
        account: User,
        head: Head,
        side: str,
        provisional: list[dict[str, Any]] | None,
    ) -> tuple[Runner, Graph]:
        reel = head.reel
        if provisional:
            document = head.document
            for command in provisional:
                edit = apply_edit(document, reel, parse_command(command))
                document, reel = edit.document, edit.reel
        media = PreparedMedia(account, reel)
        # Media that have become ready since make another graph of the same revision.
        digests = tuple(media.digest(m.id) for m in reel.media)
        name = (head.revision, side, repr(provisional or ""), digests)
        found = self._graphs.get(name)
        if found is None:
            graph = build_graph(reel, media, treated=side == "treated")
            piece = max(1, reel.sample_rate // PIECES_A_SECOND)
            found = (Runner(media, reel.sample_rate, self.store, piece), graph)
            self._graphs[name] = found
            while len(self._graphs) > 6:
                self._graphs.popitem(last=False)
        return found


_engines: OrderedDict[UUID, ReelEngine] = OrderedDict()
_engines_lock = threading.Lock()


def engine_of(reel: UUID) -> ReelEngine:
    """The engine of a reel; those used longest ago are let go."""
    with _engines_lock:
        engine = _engines.setdefault(reel, ReelEngine())
        _engines.move_to_end(reel)
        while len(_engines) > MOST_ENGINES:
            _engines.popitem(last=False)
        return engine


@dataclass
class _Asking:
    generation: int = 0
    outstanding: int = 0


class Players:
    """Which generation of requests each player is at, and how many it has under way."""

    LIMIT = 2
    MOST = 1000

    def __init__(self) -> None:
        self._players: OrderedDict[str, _Asking] = OrderedDict()
        self._lock = threading.Lock()

    def begin(self, player: str, generation: int) -> bool:
        """Note a request; false if the player has too many under way."""
        with self._lock:
            asking = self._players.setdefault(player, _Asking())
            self._players.move_to_end(player)
            while len(self._players) > self.MOST:
                self._players.popitem(last=False)
            # What belongs to an older generation is about to be dropped and does not count.
            if generation > asking.generation:
                asking.generation, asking.outstanding = generation, 0
            if asking.outstanding >= self.LIMIT:
                return False
            asking.outstanding += 1
            return True

    def end(self, player: str, generation: int) -> None:
        """Note that a request has been answered."""
        with self._lock:
            asking = self._players.get(player)
            if asking is not None and asking.generation == generation:
                asking.outstanding = max(0, asking.outstanding - 1)

    def wanted(self, player: str, generation: int) -> bool:
        """Whether a generation is still the player's newest."""
        asking = self._players.get(player)
        return asking is None or asking.generation <= generation


players = Players()
