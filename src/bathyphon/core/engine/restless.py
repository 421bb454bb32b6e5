"""A reel asked for as a restless player asks: to show that the order changes no bit.

It seeks, plays on a little, wants something at once, gives up what it has asked for half-way, and
its memory is taken away now and then. What comes back is the exact sound of every second.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import suppress
from dataclasses import dataclass

import numpy as np

from bathyphon.core.engine.graph import Graph
from bathyphon.core.engine.keys import Superseded
from bathyphon.core.engine.live import Live, Playing, Wanted
from bathyphon.core.engine.media import Media
from bathyphon.core.engine.nodes import Node
from bathyphon.core.engine.render import Sound

PLAYS_ON = 3.0
"""Seconds that are played after a seek, on average."""
GIVEN_UP, AT_ONCE, FORGOTTEN = 0.3, 0.4, 0.1
"""How often, before a second, something else is given up, wanted at once, or forgotten."""
MOST_ASKED = 40
"""Times that it is asked whether something is still wanted, before it no longer is."""


@dataclass(frozen=True)
class Second:
    """A second of sound, or what is left of one: the mix and what else was asked for."""

    index: int
    mix: Sound
    stems: tuple[Sound, ...]


def in_sequence(live: Live, graph: Graph, media: Media, stems: bool = False) -> Iterator[Second]:
    """Every second, one after the other, as a player does that is never touched.

    Parameters
    ----------
    live : Live
    graph : Graph
    media : Media
    stems : bool
        Yield the stems as well.
    """
    playing = live.playing(graph, media)
    for index in range(seconds(graph, live.sample_rate)):
        yield _second(playing, index, graph.stems if stems else ())


def out_of_order(
    live: Live, graph: Graph, media: Media, seed: int, stems: bool = False
) -> Iterator[Second]:
    """Every second, in an order drawn from a seed, with all that a restless hand does between.

    Parameters
    ----------
    live : Live
        May remember the sound of other states of the reel.
    graph : Graph
    media : Media
    seed : int
    stems : bool
        Yield the stems as well.
    """
    rng = np.random.default_rng(seed)
    playing = live.playing(graph, media)
    count = seconds(graph, live.sample_rate)
    left = set(range(count))
    while left:
        here = int(rng.choice(sorted(left)))
        for index in range(here, min(count, here + 1 + int(rng.exponential(PLAYS_ON)))):
            if index not in left:
                break
            _stir(rng, live, playing, count)
            left.discard(index)
            yield _second(playing, index, graph.stems if stems else ())


def seconds(graph: Graph, sample_rate: int) -> int:
    """How many seconds a reel takes, begun ones included."""
    return -(-graph.length // sample_rate)


def _second(playing: Playing, index: int, stems: Sequence[Node]) -> Second:
    mix = playing.block(index)
    return Second(index, mix, tuple(playing.block(index, node=stem) for stem in stems))


def _stir(rng: np.random.Generator, live: Live, playing: Playing, count: int) -> None:
    if rng.random() < GIVEN_UP:
        with suppress(Superseded):
            playing.block(int(rng.integers(count)), _tired(int(rng.integers(1, MOST_ASKED))))
    if rng.random() < AT_ONCE:
        start = int(rng.integers(count * live.sample_rate))
        stop = start + int(rng.integers(1, live.sample_rate // 5))
        with suppress(Superseded):
            playing.piece(start, stop, _tired(int(rng.integers(1, 10 * MOST_ASKED))))
    if rng.random() < FORGOTTEN:
        live.store.forget(float(rng.random()))


def _tired(patience: int) -> Wanted:
    """Whether something is wanted: no longer once it has been asked so many times."""
    asked = 0

    def wanted() -> bool:
        nonlocal asked
        asked += 1
        return asked <= patience

    return wanted
