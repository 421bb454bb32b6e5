"""Sound at once after a change: it goes on from what stood there before."""

import numpy as np
import pytest

from bathyphon.core.engine.graph import build_graph
from bathyphon.core.engine.live import Live
from bathyphon.core.reel.parse import read_reel
from reels import Memory, document, effect, noise, same_bits, treatment
from thinned import thinned

RATE = 48000
SECONDS = 12


def burst():
    """A second of noise, then silence: all that is heard later is what rings."""
    x = noise(RATE * SECONDS, 3, 0.3).astype(np.float32)
    x[:, RATE:] = 0.0
    return Memory(m1=x)


def reel_with(*effects):
    n = RATE * SECONDS
    return read_reel(document(n, treatments=[treatment(0, n, *effects, ring_out="none")]))


def level(sound):
    return 10 * np.log10(np.mean(sound.astype(np.float64) ** 2) + 1e-15)


def test_what_rings_goes_on_to_ring_when_a_value_is_turned():
    media = burst()
    live = Live(RATE)
    before = live.playing(build_graph(reel_with(effect("reverb", decay_s=8.0)), media), media)
    for second in range(5):
        before.block(second)
    at = 5 * RATE
    before.piece(at - RATE // 20, at)
    for k in range(8):
        # Turned and turned, far longer after the burst than a pre-roll reaches back.
        turned = reel_with(effect("reverb", decay_s=8.0 - 0.1 * k))
        playing = live.playing(build_graph(turned, media), media)
        sound, exact = playing.piece(at, at + RATE // 20)
        assert not exact
        assert abs(level(sound) - level(before.block(at // RATE))) < 4.0, k
        at += RATE // 20


def test_a_chain_that_is_another_one_does_not_go_on_from_its_memories():
    media = burst()
    live = Live(RATE)
    first = live.playing(build_graph(reel_with(effect("reverb", decay_s=8.0)), media), media)
    first.piece(5 * RATE, 5 * RATE + 2400)
    other = live.playing(build_graph(reel_with(effect("echo"), effect("muffle")), media), media)
    sound, _ = other.piece(5 * RATE, 5 * RATE + 2400)
    assert level(sound) < -60


@pytest.mark.parametrize("seed", thinned(range(4), 2))
def test_whatever_is_turned_the_exact_sound_is_the_same_afterwards(seed):
    rng = np.random.default_rng(seed)
    media = Memory(m1=noise(RATE * SECONDS, 3, 0.3).astype(np.float32))
    live = Live(RATE)
    at = int(rng.integers(0, 8)) * RATE
    for _ in range(6):
        value = float(rng.uniform(0.5, 6.0))
        playing = live.playing(
            build_graph(reel_with(effect("reverb", decay_s=value), effect("limit")), media), media
        )
        start = at + int(rng.integers(0, 18)) * (RATE // 20)
        playing.piece(start, start + 3 * RATE // 20)
    alone = Live(RATE).playing(playing.graph, media)
    index = at // RATE
    assert playing.block(index).tobytes() == alone.block(index).tobytes()
    # What is asked for again when it is known exactly is those very bits.
    sound, exact = playing.piece(at, at + RATE // 10)
    assert exact
    assert sound.tobytes() == np.ascontiguousarray(playing.block(index)[:, : RATE // 10]).tobytes()


def test_what_is_rough_is_not_called_exact_when_it_is_asked_for_again():
    media = burst()
    live = Live(RATE)
    playing = live.playing(build_graph(reel_with(effect("reverb", decay_s=8.0)), media), media)
    first = playing.piece(6 * RATE, 6 * RATE + 2400)
    again = playing.piece(6 * RATE, 6 * RATE + 2400)
    assert [first[1], again[1]] == [False, False]


class Counting(Memory):
    """Counts the samples that are read."""

    count = 0

    def read(self, media, start, stop):
        self.count += stop - start
        return super().read(media, start, stop)


def stretched_reel(seconds, **speed):
    return read_reel(document(seconds * RATE, clip={"speed": speed}))


SPEEDS = [
    {"semitones": -5},
    {"semitones": 4, "material": "music"},
    {"percent": 80},
    {"percent": 125, "material": "music", "semitones": 2},
]


@pytest.mark.parametrize(("seed", "speed"), list(enumerate(SPEEDS)))
def test_stretched_sound_at_once_is_near_the_exact_one(seed, speed):
    """Wherever it is asked for, and in whatever order: in tune, and as loud."""
    rng = np.random.default_rng(seed)
    seconds = 20
    steady = 0.2 * np.sin(2 * np.pi * 440 * np.arange(seconds * RATE) / RATE)
    media = Memory(m1=np.stack([steady, steady]).astype(np.float32))
    graph = build_graph(stretched_reel(seconds, **speed), media)
    whole = np.concatenate(exact_blocks(graph, media, 15), axis=1)
    playing = Live(RATE).playing(graph, media)
    at = 3 * RATE
    for _ in range(8):
        at = at + 4800 if rng.random() < 0.5 else int(rng.integers(1, 14 * 20)) * RATE // 20
        sound, exact = playing.piece(at, at + 14400)
        assert not exact
        there = whole[:, at : at + 14400]
        assert abs(level(sound) - level(there)) < 0.5, at
        assert abs(pitch(sound) - pitch(there)) < 3, at


def exact_blocks(graph, media, count):
    playing = Live(RATE).playing(graph, media)
    return [playing.block(index) for index in range(count)]


def pitch(sound):
    """The strongest frequency, in Hz."""
    spectrum = np.abs(np.fft.rfft(sound[0] * np.hanning(sound.shape[1]), 2**18))
    return np.argmax(spectrum) * RATE / 2**18


def test_far_into_a_clip_no_more_is_read_than_at_its_beginning():
    seconds = 120
    media = Counting(m1=noise(RATE * seconds, 3, 0.3).astype(np.float32))
    live = Live(RATE)
    for cents in range(1, 4):
        graph = build_graph(stretched_reel(seconds, cents=cents), media)
        media.count = 0
        live.playing(graph, media).piece(100 * RATE, 100 * RATE + 14400)
        assert media.count < 6 * RATE
    # What is exact goes on from the beginning, and is what it was.
    exact = live.playing(graph, media).block(1)
    assert same_bits(exact, Live(RATE).playing(graph, media).block(1))
