"""Clips and tracks computed by several threads, a few chunks ahead of the mix.

A thread takes whichever chunk is ready: none waits while another works on a harder clip, or while
the mix is made and used.
"""

from __future__ import annotations

from collections.abc import Iterable
from concurrent.futures import Executor
from threading import Condition, get_ident

from bathyphon.core.engine.graph import Graph
from bathyphon.core.engine.nodes import Node
from bathyphon.core.engine.runner import Runner

DEPTH = 3
"""Chunks that are computed before the mix asks for them."""


class Ahead:
    """Chunks of a graph's clips and stems, each node's in order.

    Parameters
    ----------
    pool : Executor
    threads : int
        How many of its threads work at most.
    runner : Runner
        Keeps what has been computed.
    graph : Graph
    chunks : int
        How many chunks there are.
    """

    def __init__(
        self, pool: Executor, threads: int, runner: Runner, graph: Graph, chunks: int
    ) -> None:
        self._pool = pool
        self._threads = threads
        self._runner = runner
        self._chunks = chunks
        self._stems = graph.stems
        clips = frozenset(graph.clips)
        self._needs = {stem: _within(stem, clips) for stem in graph.stems}
        self._needs.update((clip, frozenset[Node]()) for clip in graph.clips)
        self._done = dict.fromkeys(self._needs, 0)
        self._by: dict[Node, int] = {}
        self._busy: set[Node] = set()
        self._working = 0
        self._limit = 0
        self._failed: BaseException | None = None
        self._changed = Condition()

    def wait(self, chunk: int) -> None:
        """Let everything go on up to a little behind a chunk, and wait until that is there."""
        with self._changed:
            self._limit = min(chunk + 1 + DEPTH, self._chunks)
            self._call()
            self._changed.wait_for(lambda: self._failed or self._reached(self._stems, chunk))
            if self._failed:
                raise self._failed

    def stop(self) -> None:
        """Begin nothing more."""
        with self._changed:
            self._limit = 0

    def _reached(self, nodes: Iterable[Node], chunk: int) -> bool:
        return all(self._done[node] > chunk for node in nodes)

    def _ready(self) -> list[Node]:
        """What may be gone on with."""
        return [
            node
            for node, needs in self._needs.items()
            if self._done[node] < self._limit
            and node not in self._busy
            and self._reached(needs, self._done[node])
        ]

    def _call(self) -> None:
        """Have more threads work, if there is something for them."""
        for _ in range(min(len(self._ready()), self._threads - self._working)):
            self._working += 1
            self._pool.submit(self._work)

    def _work(self) -> None:
        """Compute what is ready, as long as there is something."""
        me = get_ident()
        while True:
            with self._changed:
                ready = [] if self._failed else self._ready()
                if not ready:
                    self._working -= 1
                    return
                # What comes first; what this thread has at hand rather than another's.
                node = min(ready, key=lambda n: (self._done[n], self._by.get(n, me) != me))
                chunk = self._done[node]
                self._busy.add(node)
                self._by[node] = me
                self._call()
            failed: BaseException | None = None
            try:
                grid = self._runner.grid
                if not node.silent(chunk * grid, (chunk + 1) * grid):
                    self._runner.output(node, chunk)
            except BaseException as error:
                failed = error
            with self._changed:
                self._failed = self._failed or failed
                self._busy.discard(node)
                self._done[node] = chunk + 1
                self._call()
                if node in self._stems or failed:
                    self._changed.notify_all()


def _within(node: Node, clips: frozenset[Node]) -> frozenset[Node]:
    """Those of some clips that a node is made of."""
    if node in clips:
        return frozenset([node])
    return frozenset[Node]().union(*(_within(source, clips) for source in node.inputs))
