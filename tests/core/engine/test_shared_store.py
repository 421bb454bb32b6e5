"""Many reels played at once remember within one budget, and none of them begins anew for it."""

import numpy as np
import pytest

from bathyphon.core.engine.graph import build_graph
from bathyphon.core.engine.live import Live
from bathyphon.core.engine.store import Store
from bathyphon.core.reel.parse import read_reel
from reels import Memory, document, effect, noise, treatment
from thinned import thinned

MB = 2**20
SECONDS = 24


class Counting(Memory):
    """Media that count how much of them is read."""

    def __init__(self, **sounds):
        super().__init__(**sounds)
        self.samples = 0

    def read(self, media, start, stop):
        self.samples += stop - start
        return super().read(media, start, stop)


def reverberant(seed, rate=48000, decay=1.5):
    """A reel whose track rings from its beginning to its end, and its media."""
    doc = document(SECONDS * rate, rate=rate)
    chain = [{**effect("reverb", decay_s=decay), "id": "r"}]
    doc["tracks"][0]["treatment"] = {"effects": chain}
    media = Counting(m1=noise(SECONDS * rate, seed))
    graph = build_graph(read_reel(doc), media)
    return graph, media


def playing(store, seed, rate=48000):
    graph, media = reverberant(seed, rate)
    return Live(rate, shared=store).playing(graph, media), media


@pytest.mark.parametrize("reels", [3, 12])
def test_reels_that_are_played_side_by_side_go_on_where_they_are(reels):
    """Twelve in turn; with a budget each, or one that drops whole reels, all would begin anew."""
    store = Store(24 * MB)
    all_of_them = [playing(store, seed) for seed in range(reels)]
    most = 0
    for second in range(10):
        for one, _ in all_of_them:
            one.block(second)
            most = max(most, store.used)
    assert most <= 24 * MB
    for _, media in all_of_them:
        # What is read ahead of the block, and no second twice.
        assert media.samples <= 12 * 48000


def test_what_goes_first_is_sound_and_not_where_to_go_on_from():
    store = Store(12 * MB)
    one, media = playing(store, 1)
    for second in range(10):
        one.block(second)
    others = [playing(store, seed)[0] for seed in range(2, 8)]
    for second in range(4):
        for other in others:
            other.block(second)
    before = media.samples
    one.block(10)
    assert media.samples - before <= 3 * 48000


@pytest.mark.parametrize("seed", thinned(range(4), 2))
def test_what_is_heard_is_the_same_whoever_else_is_heard(seed):
    """Any reels, rates and order, a budget that never suffices: the bits of each one alone."""
    rng = np.random.default_rng(seed)
    store = Store(int(rng.choice([1, 3, 9])) * MB)
    rates = rng.choice([22050, 44100, 48000], 5)
    # The same content twice, and silence at several rates.
    kinds = [(int(rng.integers(3)), int(rate)) for rate in rates]
    shared = [playing(store, *kind)[0] for kind in kinds]
    alone = [playing(None, *kind)[0] for kind in kinds]
    for _ in range(40):
        which, second = int(rng.integers(5)), int(rng.integers(SECONDS + 2))
        if rng.random() < 0.2:
            start = int(rng.integers(SECONDS * kinds[which][1]))
            shared[which].piece(start, start + 4000)
        assert (shared[which].block(second) == alone[which].block(second)).all()


def test_equal_reels_are_worked_out_once():
    """A copy of a reel, say, or two people in one."""
    store = Store(64 * MB)
    first, _ = playing(store, 5)
    second, media = playing(store, 5)
    sounds = [first.block(i) for i in range(5)]
    for i, sound in enumerate(sounds):
        assert (second.block(i) == sound).all()
    assert media.samples == 0


def test_silence_has_the_length_of_its_rate():
    store = Store(64 * MB)
    for rate in (44100, 48000, 22050):
        doc = document(2 * rate, rate=rate, treatments=[treatment(rate // 4, rate // 2)])
        doc["tracks"][0]["clips"] = []
        media = Memory(m1=noise(rate))
        one = Live(rate, shared=store).playing(build_graph(read_reel(doc), media), media)
        assert one.output(0).shape == (2, rate)


def test_a_store_that_is_made_smaller_holds_less_at_once():
    store = Store(budget=80_000)
    for number in range(9):
        store.keep_output(b"%d" % number, np.zeros(1000))
    store.resize(30_000)
    assert store.used <= 30_000
    assert store.output(b"8") is not None
