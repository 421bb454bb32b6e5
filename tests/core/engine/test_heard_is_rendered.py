"""Heard is rendered: whatever is built and edited, in whatever order it is listened to."""

import os

import numpy as np
import pytest

import drawn
from bathyphon.core.effects import EFFECTS
from bathyphon.core.engine.graph import build_graph
from bathyphon.core.engine.live import Live
from bathyphon.core.engine.render import render
from bathyphon.core.engine.restless import out_of_order
from bathyphon.core.engine.runner import Runner
from bathyphon.core.errors import Refused
from bathyphon.core.reel.parse import read_reel
from reels import same_bits

BLOCKS = (1000, 48000, 65536, 7777)
EVERY_DAY = (0, 4, 5, 6, 13, 14, 18, 23)
"""Seeds of reels; of the first twenty-four, those that do not take long."""
OTHERS = sorted(set(range(24)) - set(EVERY_DAY))
LONGEST = 12
"""Seconds of a reel with its tails."""


def rendered(reel, media, block):
    return np.concatenate(
        [part.mix for part in render(build_graph(reel, media), media, block=block)], axis=1
    )


def heard(live, reel, media, seed):
    graph = build_graph(reel, media)
    out = np.full((2, graph.length), np.nan, np.float32)
    for second in out_of_order(live, graph, media, seed):
        at = second.index * live.sample_rate
        out[:, at : at + second.mix.shape[1]] = second.mix
    return out


def tell(reel_seed, what, a, b):
    differs = np.flatnonzero((a != b).any(axis=0)) if a.shape == b.shape else np.zeros(1, int)
    where = f" from sample {differs[0]} on" if differs.size else ""
    return (
        f"seed {reel_seed}: {what}: {a.shape} {b.shape} {drawn.difference_db(a, b):.1f} dB{where}"
    )


def check(seed, edits):
    """One reel, and the reel after each of some edits, on one memory."""
    rng = np.random.default_rng(seed)
    rate = int(rng.choice(drawn.RATES))
    media = drawn.media(rng, rate)
    document = drawn.reel(rng, rate)
    reel = read_reel(document)
    live = Live(rate, budget=int(rng.choice([2, 8, 64])) * 2**20)
    for turn in range(edits + 1):
        whole = rendered(reel, media, BLOCKS[turn % len(BLOCKS)])
        blocks = BLOCKS if turn == 0 else [int(rng.choice(BLOCKS))]
        for block in blocks:
            other = rendered(reel, media, block)
            assert same_bits(whole, other), tell(
                seed, f"edit {turn}, blocks of {block}", whole, other
            )
        live_sound = heard(live, reel, media, int(rng.integers(2**31)))
        assert same_bits(whole, live_sound), tell(seed, f"edit {turn}, live", whole, live_sound)
        for _ in range(20):
            patch = drawn.edit(rng, document)
            try:
                changed = drawn.edited(document, patch)
                new = read_reel(changed, (document, reel))
            except Refused:
                continue
            if build_graph(new, media).length <= LONGEST * rate:
                document, reel = changed, new
                break


@pytest.mark.parametrize(
    "seed", [*EVERY_DAY, *(pytest.param(seed, marks=pytest.mark.long) for seed in OTHERS)]
)
def test_live_and_render_give_the_same_bits_in_any_order_after_any_edit(seed):
    check(seed, edits=2)


@pytest.mark.parametrize("seeds", [2, pytest.param(6, marks=pytest.mark.long)])
@pytest.mark.parametrize("kind", EFFECTS)
def test_an_effect_gives_the_same_bits_however_its_sound_is_cut_up(kind, seeds):
    """Before anything is rounded: what is the least bit here may be heard after a long room."""
    for seed in range(2 if kind in drawn.SLOW else seeds):
        rng = np.random.default_rng([seed, *kind.encode()])
        rate = int(rng.choice(drawn.RATES))
        media = drawn.media(rng, rate)
        document = drawn.reel(rng, rate)
        clip = {"id": "c", "media": "noise", "start": rate // 3, "length": 4 * rate}
        chain = {"effects": [drawn.effect(rng, rate, kind, "e", [])], "ring_out": rate // 2}
        span = drawn.span(rng, rate, "f", rate // 2, 2 * rate, chain)
        document |= {"tracks": [{"id": "t", "clips": [clip], "treatments": [span]}], "mix": {}}
        first, *others = (unrounded(read_reel(document), media, grid) for grid in (1000, 7777, 333))
        for other in others:
            assert first.tobytes() == other.tobytes(), f"seed {seed}"


def unrounded(reel, media, grid):
    """What comes from the treatments of the first track, float64."""
    graph = build_graph(reel, media)
    runner = Runner(media, grid)
    node = graph.track("t").inputs[0]
    chunks = range(-(-graph.length // grid))
    # Zero has one sign.
    return np.concatenate([runner.output(node, i) for i in chunks], 1)[:, : graph.length] + 0.0


@pytest.mark.parametrize("size", range(1, 18))
def test_functions_of_a_few_values_give_the_bits_of_those_of_many(size):
    """What the engine builds on: blocks are cut up anyhow."""
    x = np.random.default_rng(size).uniform(0.01, 1.5, 4096)
    for function in (np.exp, np.log, np.tan, np.sin, np.cos, np.arcsin, np.sqrt, lambda v: 10.0**v):
        whole = function(np.minimum(x, 1.0))
        parts = [function(np.minimum(x[i : i + size], 1.0)) for i in range(0, x.size, size)]
        assert np.array_equal(np.concatenate(parts), whole)


@pytest.mark.long
def test_so_do_reels_that_nobody_has_drawn_before():
    first = int.from_bytes(os.urandom(4), "little")
    print("seed", first)
    for turn in range(2000):
        check(first + turn, edits=4)
