"""Long films: thousands of spans and clips, hundreds of tracks, deep chains.

What is counted is work, not time: a chunk visits only what touches it.
"""

from collections import Counter

import numpy as np
import pytest

from bathyphon.core.edits import apply_edit, parse_command
from bathyphon.core.engine.graph import build_graph
from bathyphon.core.engine.live import Live
from bathyphon.core.engine.render import render
from bathyphon.core.reel.parse import read_reel
from reels import Memory, document, effect, noise, rendered, same_bits, treatment

RATE = 8000
MEDIA = Memory(m1=noise(RATE, 3))


def with_spans(count, apart, length, kind="muffle", seconds=None, **params):
    doc = document(RATE, rate=RATE, clip={"length": (seconds or 1) * RATE})
    doc["tracks"][0]["treatments"] = [
        {**treatment(i * apart, length, effect(kind, **params)), "id": f"f{i}"}
        for i in range(count)
    ]
    return doc


def blocks_of(doc, block):
    """How many blocks effects are given in a whole render."""
    given = Counter()
    graph = build_graph(read_reel(doc), MEDIA)
    for _ in render(graph, MEDIA, block=block, probe=lambda id, n: given.update([id])):
        pass
    return given.total()


def test_hundreds_of_spans_over_one_another():
    doc = with_spans(1200, 0, RATE, "gain", level_db=0)
    sound = rendered(doc, MEDIA)
    assert same_bits(sound, rendered(doc, MEDIA, block=1000))
    playing = Live(RATE).playing(build_graph(read_reel(doc), MEDIA), MEDIA)
    assert same_bits(playing.block(0), sound)
    assert same_bits(sound, MEDIA.read("m1", 0, RATE))


@pytest.mark.parametrize("kind", ["muffle", "limit"])
def test_spans_one_after_another_are_visited_where_they_are(kind):
    # Twice as many, twice the work; and each only a few times.
    few, many = (
        blocks_of(with_spans(count, RATE // 4, RATE // 4, kind, count // 4), RATE)
        for count in (500, 1000)
    )
    assert many <= 2.1 * few
    assert many <= 6 * 1000


def test_a_chunk_far_from_any_span_visits_none():
    doc = with_spans(2000, RATE // 4, RATE // 8, seconds=900)
    given = Counter()
    graph = build_graph(read_reel(doc), MEDIA)
    parts = render(
        graph, MEDIA, start=700 * RATE, block=RATE, probe=lambda id, n: given.update([id])
    )
    before = sum(1 for _ in parts) and given.total()
    assert before <= 3 * 2000


def test_five_thousand_spans_and_ten_thousand_clips():
    doc = with_spans(5000, RATE // 4, RATE // 4, "gain", level_db=0)
    doc["tracks"][0]["clips"] = [
        {"id": f"c{i}", "media": "m1", "start": i * RATE // 8, "length": RATE // 8}
        for i in range(10_000)
    ]
    reel = read_reel(doc)
    graph = build_graph(reel, MEDIA)
    assert graph.length == 1250 * RATE
    playing = Live(RATE).playing(graph, MEDIA)
    for index in (700, 0, 1249):
        sound, expected = playing.block(index), MEDIA.read("m1", 0, RATE // 8)
        assert np.allclose(sound, np.tile(expected, 8), atol=1e-6)
    command = {"kind": "set_effect", "owner": "treatment:f2800", "id": "e0",
               "params": {"level_db": -96}}  # fmt: skip
    edit = apply_edit(doc, reel, parse_command(command))
    changed = Live(RATE).playing(build_graph(edit.reel, MEDIA), MEDIA).block(700)
    assert not changed[:, 100 : RATE // 4 - 100].any()
    assert changed[:, RATE // 4 + 100 :].any()


def test_three_hundred_tracks_that_listen_to_one_another():
    clip = {"media": "m1", "start": 0, "length": RATE}
    tracks = [
        {
            "id": f"t{k}",
            "clips": [{**clip, "id": f"c{k}"}],
            "treatment": {
                "effects": [{"id": "e", **effect("duck", track=f"t{k - 1}")}] if k else []
            },
        }
        for k in reversed(range(300))
    ]
    doc = document(RATE, rate=RATE, tracks=tracks)
    sound = rendered(doc, MEDIA)
    assert same_bits(sound, rendered(doc, MEDIA, block=1000))
    playing = Live(RATE).playing(build_graph(read_reel(doc), MEDIA), MEDIA)
    assert same_bits(playing.block(0), sound)


@pytest.mark.parametrize("kind", ["muffle", "limit", "echo"])
def test_a_chain_of_sixty_four_effects(kind):
    doc = document(RATE, rate=RATE, treatments=[treatment(0, RATE, *[effect(kind)] * 64)])
    doc["tracks"][0]["treatments"][0]["ring_out"] = 800
    for i, part in enumerate(doc["tracks"][0]["treatments"][0]["effects"]):
        part["id"] = f"e{i}"
    sound = rendered(doc, MEDIA)
    assert np.isfinite(sound).all()
    assert same_bits(sound, rendered(doc, MEDIA, block=1000))
