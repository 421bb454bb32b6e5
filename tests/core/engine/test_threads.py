"""Several threads render the same sound as one, and stop when they should."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from bathyphon.core.engine.graph import Graph, build_graph
from bathyphon.core.engine.render import render
from bathyphon.core.engine.runner import Superseded
from bathyphon.core.reel.parse import read_reel
from reels import Memory, document, effect, noise, treatment
from thinned import in_turn

SECOND = 48000


def busy_reel(length: int) -> tuple[Graph, Memory]:
    """Clips that differ in work, a treated track, and a mix that looks ahead."""
    media = Memory(m1=noise(length, seed=3))
    chains: list[list[dict[str, Any]]] = [
        [effect("reverb"), effect("echo", time_ms=90)],
        [effect("muffle", high_cut_hz=900)],
        [],
        [effect("compress"), effect("reverb", decay_s=0.6)],
    ]
    doc = document(length, treatments=[treatment(1000, length // 2, effect("limit"))])
    first = doc["tracks"][0]
    doc["tracks"] = []
    for index, chain in enumerate(chains):
        clips = []
        for half in range(2):
            clip = dict(first["clips"][0], id=f"c{index}{half}", length=length // 2)
            clip |= {"start": half * (length // 2), "source_start": 100 * index}
            links = [{"id": f"e{index}{half}{k}", **link} for k, link in enumerate(chain)]
            clips.append(clip | ({"treatment": {"effects": links}} if links else {}))
        doc["tracks"].append(dict(first, id=f"t{index}", clips=clips))
        if index:
            doc["tracks"][-1].pop("treatments", None)
    doc["tracks"][1]["treatment"] = {"effects": [{"id": "on-track", **effect("limit")}]}
    doc["mix"] = {"treatment": {"effects": [{"id": "on-mix", **effect("limit", ceiling_db=-6)}]}}
    return build_graph(read_reel(doc), media), media


def whole(graph: Graph, media: Memory, **more: Any) -> np.ndarray:
    return np.concatenate([part.mix for part in render(graph, media, **more)], axis=1)


@pytest.mark.parametrize(("block", "threads"), in_turn([1000, 4096, 65536], [2, 3, 8]))
def test_threads_and_blocks_change_no_bit(threads: int, block: int) -> None:
    graph, media = busy_reel(2 * SECOND)
    alone = whole(graph, media)
    assert np.abs(alone).max() > 0.1
    assert np.array_equal(whole(graph, media, threads=threads, block=block), alone)


def test_stems_are_those_of_one_thread() -> None:
    graph, media = busy_reel(SECOND)
    one, two = (list(render(graph, media, threads=t, stems=True, block=5000)) for t in (1, 2))
    for a, b in zip(one, two, strict=True):
        assert len(a.stems) == 4
        assert all(np.array_equal(p, q) for p, q in zip(a.stems, b.stems, strict=True))


def test_a_part_from_the_middle_is_that_part() -> None:
    graph, media = busy_reel(2 * SECOND)
    part = whole(graph, media, start=30001, stop=70003, threads=2, block=4096)
    assert np.array_equal(part, whole(graph, media)[:, 30001:70003])


def test_what_goes_wrong_in_a_thread_is_told() -> None:
    graph, media = busy_reel(2 * SECOND)

    class Torn(Memory):
        def read(self, media: str, start: int, stop: int) -> Any:
            if start > SECOND // 2:
                raise OSError("the disk is gone")
            return super().read(media, start, stop)

    torn = Torn(m1=media.read("m1", 0, 2 * SECOND))
    with pytest.raises(OSError, match="the disk is gone"):
        whole(graph, torn, threads=2, block=4096)


def test_it_ends_when_no_longer_wanted() -> None:
    graph, media = busy_reel(2 * SECOND)
    asked = iter([True] * 40 + [False] * 10**6)
    with pytest.raises(Superseded):
        whole(graph, media, threads=2, block=1024, wanted=lambda: next(asked))


def test_whoever_stops_listening_is_not_kept_waiting() -> None:
    graph, media = busy_reel(60 * SECOND)
    read: list[int] = []

    class Counting(Memory):
        def read(self, media: str, start: int, stop: int) -> Any:
            read.append(start)
            return super().read(media, start, stop)

    parts = render(graph, Counting(m1=media.read("m1", 0, SECOND)), threads=2, block=4096)
    next(parts)
    parts.close()
    # A few chunks ahead were begun, not the minute.
    assert max(read) < 8 * 4096
