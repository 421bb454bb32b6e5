"""Live chunks: the same sound as a render, recomputed only where an edit reaches."""

import contextlib

import numpy as np
import pytest

from bathyphon.core.engine.graph import build_graph
from bathyphon.core.engine.live import Live
from bathyphon.core.engine.place import NEAR, Place, next_piece
from bathyphon.core.engine.render import to_float32
from bathyphon.core.engine.runner import Runner, Superseded
from bathyphon.core.engine.store import Store
from bathyphon.core.reel.parse import read_reel
from reels import Memory, document, effect, keyframes, noise, rendered, same_bits, treatment

N = 40 * 4800
GRID = 4800
MEDIA = Memory(m1=noise(N))


def doc_with(high_cut=500.0, start=48000, **more):
    return document(
        N,
        treatments=[
            treatment(
                start, 48000, effect("muffle", high_cut_hz=high_cut), effect("echo", time_ms=30)
            )
        ],
        **more,
    )


def runner_for(doc, store, **options):
    graph = build_graph(read_reel(doc), MEDIA)
    return Runner(MEDIA, GRID, store, piece=480, **options), graph


@pytest.mark.parametrize("order", [range(40), range(39, -1, -1), [17, 3, 30, 11, 25, 12]])
def test_live_chunks_in_any_order_equal_the_render(order):
    whole = rendered(doc_with(), MEDIA)
    runner, graph = runner_for(doc_with(), Store())
    for i in order:
        chunk = to_float32(runner.output(graph.out, i))
        assert same_bits(chunk, whole[:, i * GRID : (i + 1) * GRID].copy())


def test_a_small_budget_changes_nothing_but_the_work():
    whole = rendered(doc_with(), MEDIA)
    runner, graph = runner_for(doc_with(), Store(budget=200_000))
    for i in (30, 5, 29, 14):
        chunk = to_float32(runner.output(graph.out, i))
        assert same_bits(chunk, whole[:, i * GRID : (i + 1) * GRID].copy())


def test_an_edit_keeps_the_keys_before_it_and_after_its_tail():
    a, graph_a = runner_for(doc_with(500.0), None)
    b, graph_b = runner_for(doc_with(600.0), None)
    first, last = 48000 // GRID, -(-(96000 + graph_a.tails["tracks.0.treatments.0"]) // GRID)
    for i in range(40):
        same = a.key(graph_a.out, i) == b.key(graph_b.out, i)
        assert same == (i < first or i >= last)


def test_a_longer_span_keeps_what_lies_before_its_old_end():
    short = document(N, treatments=[treatment(0, 96000, effect("muffle"))])
    long = document(N, treatments=[treatment(0, 144000, effect("muffle"))])
    a, graph_a = runner_for(short, None)
    b, graph_b = runner_for(long, None)
    same = [a.key(graph_a.out, i) == b.key(graph_b.out, i) for i in range(40)]
    assert all(same[: 96000 // GRID - 1])
    assert not any(same[96000 // GRID : 144000 // GRID])
    assert all(same[144000 // GRID :])


def test_equal_keys_mean_equal_sound_over_a_series_of_edits():
    store = Store()
    for step in range(6):
        doc = doc_with(300.0 + 100 * step, start=48000 + 4801 * step)
        whole = rendered(doc, MEDIA)
        runner, graph = runner_for(doc, store)
        for i in np.random.default_rng(step).permutation(40)[:15]:
            chunk = to_float32(runner.output(graph.out, int(i)))
            assert same_bits(chunk, whole[:, i * GRID : (i + 1) * GRID].copy())


def test_a_superseded_request_stops_and_leaves_no_wrong_state():
    store = Store()
    runner, graph = runner_for(doc_with(), store)
    asked = []

    def wanted():
        asked.append(1)
        return len(asked) < 25

    runner.wanted = wanted
    with pytest.raises(Superseded):
        runner.output(graph.out, 20)
    runner.wanted = lambda: True
    whole = rendered(doc_with(), MEDIA)
    for i in (12, 13, 20, 35):
        chunk = to_float32(runner.output(graph.out, i))
        assert same_bits(chunk, whole[:, i * GRID : (i + 1) * GRID].copy())


@pytest.mark.parametrize("patience", range(1, 60, 3))
def test_what_is_asked_for_after_a_seek_that_was_given_up_is_right(patience):
    # Two treatments, one feeding the other: the first may give up while the second is reset.
    doc = doc_with(clip={"treatment": {"effects": [{"id": "x", **effect("echo", time_ms=40)}]}})
    doc["tracks"][0]["treatment"] = {"effects": [{"id": "y", **effect("muffle")}]}
    whole = rendered(doc, MEDIA)
    runner, graph = runner_for(doc, Store(budget=0))
    for there, back in ((20, 3), (21, 30), (22, 2)):
        chunk = to_float32(runner.output(graph.out, there))
        assert same_bits(chunk, whole[:, there * GRID : (there + 1) * GRID].copy())
        asked = []
        runner.wanted = lambda asked=asked: asked.append(1) or len(asked) < patience
        with contextlib.suppress(Superseded):
            runner.output(graph.out, back)
        runner.wanted = lambda: True


@pytest.mark.parametrize("ask", ["key", "block"])
@pytest.mark.parametrize("patience", [1, 2, 40])
def test_a_block_far_into_a_clip_without_end_is_let_go_at_once(ask, patience):
    """Its name alone takes as many steps as there are seconds before it: each asks first."""
    endless = document(2**40, treatments=[treatment(0, 2**40, effect("echo"))])
    playing = Live(48000).playing(build_graph(read_reel(endless), MEDIA), MEDIA)
    asked = []
    with pytest.raises(Superseded):
        getattr(playing, ask)(100_000, lambda: asked.append(1) or len(asked) < patience)
    assert len(asked) == patience


FAR = 10**7
"""Samples: a keyframe that is never reached."""
EXTREMES = [
    ("echo", "time_ms", (30, 30), 2000),
    ("reverb", "size", (50, 60), 150),
    ("reverb", "predelay_ms", (5, 9), 400),
    ("flanger", "delay_ms", (1, 2), 15),
    ("vibrato", "swing", (10, 20), 200),
    ("pitch", "semitones", (1, 2), -7),
    ("muffle", "wobble", (0, 0), 80),
    ("echo", "high_cut_hz", (20000, 20000), 500),
    ("reverb", "freeze", (0, 0), 1),
]


@pytest.mark.parametrize(("kind", "id", "here", "far"), EXTREMES)
def test_a_keyframe_that_is_never_reached_leaves_no_wrong_memory(kind, id, here, far):
    # How long a delay line is, how far is looked ahead, what is left out: all of the curve counts.
    store = Store()
    for value in (here[1], far, here[1]):
        frames = keyframes((0, here[0]), (24_000, here[1]), (FAR, value))
        doc = document(N, treatments=[treatment(9_600, 96_000, effect(kind, **{id: frames}))])
        whole = rendered(doc, MEDIA)
        runner, graph = runner_for(doc, store)
        for i in (12, 15, 3, 18):
            chunk = to_float32(runner.output(graph.out, i))
            assert same_bits(chunk, whole[:, i * GRID : (i + 1) * GRID].copy())


@pytest.mark.parametrize("budget", [300_000, 3_000_000, 30_000_000])
def test_memory_stays_within_one_budget(budget):
    store = Store(budget)
    doc = document(N, treatments=[treatment(0, N, effect("space"), effect("reverb"))])
    runner, graph = runner_for(doc, store)
    for i in range(40):
        runner.output(graph.out, i)
        # The latest thing may be larger than all of it.
        assert store.used <= budget + 16_000_000


def test_a_large_memory_is_kept_for_one_chunk_in_several():
    kept = []

    class Counting(Store):
        def keep_state(self, key, value, lasting=False):
            kept.append(sum(np.asarray(a).nbytes for part in value for a in part))
            return super().keep_state(key, value, lasting)

    budget = 64 * 2**20
    doc = document(N, treatments=[treatment(0, N, effect("space", response="cavern"))])
    runner, graph = runner_for(doc, Counting(budget))
    for i in range(40):
        runner.output(graph.out, i)
    assert kept[0] > 4 * 2**20
    # Each chunk costs its share of the budget at most, on average.
    assert sum(kept) / 40 <= budget / 64


def test_on_the_way_far_few_states_are_kept_and_those_last():
    """Who goes to minute five leaves behind what the next one can begin from, and little else."""
    doc = document(N, treatments=[treatment(0, N, effect("reverb"))])
    store = Store()
    runner, graph = runner_for(doc, store)
    asked = 35
    runner.output(graph.out, asked)
    node = next(n for n in runner.treated())
    held = {i for i in range(asked + 1) if runner.known_state(node, i) is not None}
    near = set(range(asked - NEAR + 1, asked + 1))
    assert near <= held
    assert held - near == set(range(0, asked - NEAR + 1, 8))


@pytest.mark.parametrize(
    ("took", "every", "apart"),
    [(0.0, 1, 32), (0.003, 1, 16), (0.02, 1, 2), (0.5, 1, 1), (0.5, 8, 8), (0.0, 64, 64)],
)
def test_what_is_slow_is_kept_more_often(took, every, apart):
    assert Place(running=None, took=took, every=every).apart == apart


def test_what_lasts_goes_last():
    """Of a full memory: what was heard since, then states near by, and only then the few others."""
    store = Store(budget=64_000)
    for number in range(5):
        store.keep_state(b"lasting %d" % number, ((np.zeros(1000),),), lasting=True)
    for number in range(20):
        store.keep_state(b"near %d" % number, ((np.zeros(1000),),))
        store.keep_output(b"heard %d" % number, np.zeros(1000))
        assert store.used <= 64_000
    assert all(store.state(b"lasting %d" % number) is not None for number in range(5))
    assert store.state(b"near 3") is None
    # They do not take all of it, either.
    for number in range(5, 20):
        store.keep_state(b"lasting %d" % number, ((np.zeros(1000),),), lasting=True)
    assert store.state(b"lasting 0") is None
    assert store.state(b"lasting 19") is not None
    assert store.output(b"heard 19") is not None


@pytest.mark.parametrize(
    ("piece", "took", "found"),
    [(480, 0.0, 960), (4000, 0.001, 4800), (960, 0.005, 960), (960, 0.1, 480), (600, 0.1, 480)],
)
def test_what_is_quick_is_given_more_at_a_time(piece, took, found):
    assert next_piece(piece, took, 480, 4800) == found


@pytest.mark.parametrize("slow", [0.0, 0.001, 0.004, 0.05, "as it comes"])
def test_the_sound_is_the_same_however_quick_the_machine_is(slow):
    """Pieces grow and shrink with the time they take, and so does what is kept."""
    drawn = np.random.default_rng(7)
    now = 0.0

    def clock():
        nonlocal now
        now += drawn.choice([0.0, 0.003, 0.1]) if slow == "as it comes" else slow
        return now

    whole = rendered(doc_with(), MEDIA)
    store = Store()
    runner, graph = runner_for(doc_with(), store, clock=clock)
    for i in (30, 3, 17, 39, 11, 12):
        chunk = to_float32(runner.output(graph.out, i))
        assert same_bits(chunk, whole[:, i * GRID : (i + 1) * GRID].copy())
        store.forget(drawn.random())
