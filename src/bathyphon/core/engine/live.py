"""The sound of a reel as a player asks for it: any place, in any order, after any edit.

Second by second it is exact, the very bits of a render. What is wanted at once comes as a shorter
piece, which may be worked out from a pre-roll and is then replaced by the exact second.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.engine.graph import Graph
from bathyphon.core.engine.keys import Keys
from bathyphon.core.engine.media import Media
from bathyphon.core.engine.nodes import Node
from bathyphon.core.engine.render import Sound, to_float32
from bathyphon.core.engine.runner import Runner
from bathyphon.core.engine.sketch import Sketch
from bathyphon.core.engine.store import DEFAULT_BUDGET, Store

PIECES_A_SECOND = 10
"""How often it is asked whether a second is still wanted, while it is being worked out."""
AT_ONCE_A_SECOND = 20
"""Pieces of a second from which what can be had at once is put together."""

Wanted = Callable[[], bool]


@dataclass
class Live:
    """What is remembered of a reel's sound across its edits.

    Parameters
    ----------
    sample_rate : int
    budget : int
        Bytes of memory.
    shared : Store, optional
        One that several reels share, in place of one of its own: what is equal is held once, and
        what was used longest ago goes first, whichever reel it is of.
    clock : callable, optional
        Seconds that go by; see :class:`~bathyphon.core.engine.runner.Runner`.
    """

    sample_rate: int
    budget: int = DEFAULT_BUDGET
    shared: Store | None = None
    clock: Callable[[], float] | None = None
    store: Store = field(init=False)
    keys: Keys = field(init=False)
    _sketch: Sketch | None = None

    def __post_init__(self) -> None:
        self.store = self.shared or Store(self.budget)
        self.keys = Keys(self.sample_rate)

    def playing(self, graph: Graph, media: Media) -> Playing:
        """A graph to be played; it shares what is remembered with all others."""
        return Playing(self, graph, media)

    def sketch(self, media: Media) -> Sketch:
        """What works out sound at once, for all states of the reel."""
        if self._sketch is None:
            grid = max(1, self.sample_rate // AT_ONCE_A_SECOND)
            self._sketch = Sketch(media, grid, piece=grid, sample_rate=self.sample_rate)
        return self._sketch


class Playing:
    """One state of a reel, as it is played.

    :meth:`block` may be called by one thread at a time, and so may :meth:`piece` of all states of a
    reel together; both may go on side by side.

    Parameters
    ----------
    live : Live
    graph : Graph
    media : Media
    """

    def __init__(self, live: Live, graph: Graph, media: Media) -> None:
        self.graph = graph
        self.rate = live.sample_rate
        self._exact = Runner(
            media,
            self.rate,
            live.store,
            piece=max(1, self.rate // PIECES_A_SECOND),
            keys=live.keys,
            clock=live.clock,
        )
        self._sketch = live.sketch(media)
        self._media = media

    def samples(self, index: int) -> int:
        """How many samples a block has: fewer than a second's at the end, none beyond it."""
        return max(0, min(self.rate, self.graph.length - index * self.rate))

    def key(self, index: int, wanted: Wanted = lambda: True) -> str:
        """Name of what sounds in a block: equal names mean equal bits."""
        return f"{self.name(index, wanted)}-{self.samples(index)}"

    def name(self, index: int, wanted: Wanted = lambda: True, node: Node | None = None) -> str:
        """The same of any place in the signal flow, a whole second of it."""
        self._exact.wanted = wanted
        return self._exact.key(node or self.graph.out, index).hex()

    def block(self, index: int, wanted: Wanted = lambda: True, node: Node | None = None) -> Sound:
        """The exact sound of a second, or of what is left of one at the end.

        Parameters
        ----------
        index : int
            Block *i* holds samples ``i · rate … (i + 1) · rate − 1``.
        wanted : callable
            Says whether it is still wanted.
        node : Node, optional
            A place in the signal flow; what is heard if it is not given.

        Raises
        ------
        Superseded
            If it is not.
        """
        return to_float32(self.output(index, wanted, node)[:, : self.samples(index)])

    def output(
        self, index: int, wanted: Wanted = lambda: True, node: Node | None = None
    ) -> NDArray[np.float64]:
        """The same in double precision, and always a whole second."""
        self._exact.wanted = wanted
        out = self._exact.output(node or self.graph.out, index)
        self._sketch.trail.heard(self._exact.treated())
        return out

    def piece(self, start: int, stop: int, wanted: Wanted = lambda: True) -> tuple[Sound, bool]:
        """Sound at once, and whether it is exact.

        Parameters
        ----------
        start, stop : int
            Range in samples; what lies beyond the reel's end is left out.

        Returns
        -------
        sound : ndarray of float32, shape (2, n)
        exact : bool
        """
        stop = max(start, min(stop, self.graph.length))
        sketch = self._sketch.beside(self._exact, self._media, wanted)
        sound, exact = sketch.made(self.graph.out, start, stop)
        return to_float32(sound), exact
