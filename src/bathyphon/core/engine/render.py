"""Whole renders in order, in memory that does not grow with the reel."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.engine.ahead import Ahead
from bathyphon.core.engine.graph import Graph
from bathyphon.core.engine.media import Media
from bathyphon.core.engine.runner import Runner, Superseded
from bathyphon.core.engine.running import Probe

Sound = NDArray[np.float32]
DEFAULT_BLOCK = 65536


@dataclass(frozen=True)
class Slice:
    """One block of a render: the mix and, if asked for, every stem, float32 (2, n)."""

    start: int
    mix: Sound
    stems: tuple[Sound, ...]


def render(
    graph: Graph,
    media: Media,
    start: int = 0,
    stop: int | None = None,
    block: int = DEFAULT_BLOCK,
    threads: int = 1,
    stems: bool = False,
    probe: Probe | None = None,
    wanted: Callable[[], bool] = lambda: True,
) -> Iterator[Slice]:
    """Yield the sound of ``[start, stop)`` in order.

    Parameters
    ----------
    graph : Graph
    media : Media
    start, stop : int
        Range in samples; ``stop`` is exclusive, the reel's end by default.
    block : int
        Samples a processor receives at a time. It never changes the result.
    threads : int
        Clips and tracks are divided among so many threads; sums are not, nor are tracks that
        listen to one another.
    stems : bool
        Yield the stems as well.
    probe, wanted : callable
        As for :class:`~bathyphon.core.engine.runner.Runner`.
    """
    end = graph.length if stop is None else min(stop, graph.length)
    if end <= start:
        return
    runner = Runner(media, min(block, max(1, graph.length)), probe=probe, wanted=wanted)
    chunks = -(-end // runner.grid)
    with ThreadPoolExecutor(max_workers=threads) as pool:
        beside = threads > 1 and not graph.listening
        ahead = Ahead(pool, threads, runner, graph, chunks) if beside else None
        try:
            for chunk in range(chunks):
                if not wanted():
                    raise Superseded
                if ahead:
                    ahead.wait(chunk)
                first = chunk * runner.grid
                a, b = max(first, start), min(first + runner.grid, end)
                if a < b or graph.stateful:
                    mix = runner.output(graph.out, chunk)
                if a < b:
                    cut = slice(a - first, b - first)
                    parts = graph.stems if stems else ()
                    yield Slice(
                        a,
                        to_float32(mix[:, cut]),
                        tuple(to_float32(runner.output(n, chunk)[:, cut]) for n in parts),
                    )
                runner.forget_before(chunk, graph.lookback)
        finally:
            if ahead:
                ahead.stop()


def to_float32(x: NDArray[np.float64]) -> Sound:
    """The bus at the output: float32."""
    return x.astype(np.float32)
