"""Tails: how long they are, how they end, what they run under."""

import numpy as np
import pytest

from bathyphon.core.engine.graph import build_graph
from bathyphon.core.reel.parse import read_reel
from reels import Memory, document, effect, keyframes, noise, rendered, same_bits, treatment

RATE = 48000
CLIP = RATE // 2
MEDIA = Memory(m1=noise(CLIP), m2=noise(4 * RATE, 5))
ECHO = effect("echo", time_ms=300, feedback=50)


def reel_with(ring_out, *effects, **more):
    chain = {"effects": [{"id": f"e{i}", **e} for i, e in enumerate(effects)], "ring_out": ring_out}
    return document(CLIP, clip={"treatment": chain | more})


def tail_of(doc):
    return build_graph(read_reel(doc), MEDIA).tails["tracks.0.clips.0.treatment"]


def test_an_automatic_tail_ends_when_the_repeats_are_90_db_down():
    # 50 % falls 6.02 dB a repeat: 90 dB below the first takes 15 more.
    assert tail_of(reel_with("auto", ECHO)) == 16 * 300 * 48


def test_a_fixed_number_of_repeats_ends_after_the_last():
    tail = tail_of(reel_with("auto", effect("echo", time_ms=250, repeats=3, drop_db=5)))
    assert 3 * 250 * 48 <= tail <= 3 * 250 * 48 + 0.2 * RATE * 3


def test_tails_of_a_chain_add_up():
    two = tail_of(reel_with("auto", ECHO, ECHO))
    assert two == 2 * tail_of(reel_with("auto", ECHO))


def test_no_tail_is_longer_than_two_minutes():
    assert tail_of(reel_with("auto", effect("echo", time_ms=10000, feedback=99))) == 120 * RATE


def test_the_echo_is_heard_after_the_clip_s_end_and_counts_towards_the_reel_s():
    doc = reel_with("auto", ECHO)
    sound = rendered(doc, MEDIA)
    assert sound.shape[1] == CLIP + tail_of(doc)
    x = MEDIA.read("m1", 0, CLIP)
    after = np.zeros_like(x)
    # At 300 ms repeats, sample CLIP + k holds repeats 2, 3 … of what sounded before.
    for k in range(1, 12):
        shift = k * 14400
        for i in range(CLIP):
            j = CLIP + i - shift
            if 240 <= j < CLIP - 240:
                after[:, i] += 0.5**k * x[:, j]
    # Away from the glides at the clip's edges, which come round again with every repeat.
    clear = np.r_[600:4700, 5100:14_000]
    np.testing.assert_allclose(sound[:, CLIP:][:, clear], after[:, clear], atol=2e-3)
    assert np.sqrt(np.mean((sound[:, CLIP:][:, clear] - after[:, clear]) ** 2)) < 2e-4


def test_it_rings_under_the_next_clip():
    doc = reel_with("auto", ECHO)
    doc["media"].append({"id": "m2", "path": "m2.wav"})
    alone = rendered(doc, MEDIA)
    doc["tracks"][0]["clips"].append({"id": "c2", "media": "m2", "start": CLIP, "length": RATE})
    sound = rendered(doc, MEDIA)
    under = sound[:, CLIP : CLIP + RATE] - MEDIA.read("m2", 0, RATE)
    np.testing.assert_allclose(under, alone[:, CLIP : CLIP + RATE], atol=1e-6)


def test_none_stops_with_the_clip():
    sound = rendered(reel_with("none", ECHO), MEDIA)
    assert sound.shape[1] == CLIP
    step = np.abs(sound[:, -1] - MEDIA.read("m1", 0, CLIP)[:, -1]).max()
    assert step < 1e-4


def test_a_fixed_length_fades_over_its_last_quarter():
    fixed = rendered(reel_with(RATE, ECHO), MEDIA)
    free = rendered(reel_with("auto", ECHO), MEDIA)
    assert fixed.shape[1] == CLIP + RATE
    quarter = CLIP + RATE * 3 // 4
    assert same_bits(fixed[:, :quarter].copy(), free[:, :quarter].copy())
    u = (CLIP + RATE - np.arange(quarter, CLIP + RATE)) / (RATE / 4)
    fade = np.sin(np.pi * u / 2)
    expected = free[:, quarter : CLIP + RATE] * fade
    np.testing.assert_allclose(fixed[:, quarter:], expected, atol=1e-6)


def test_past_its_tail_the_wet_sound_is_exactly_zero():
    doc = reel_with("auto", ECHO)
    doc["media"].append({"id": "m2", "path": "m2.wav"})
    silent = {"id": "c2", "media": "m2", "start": 12 * RATE, "length": RATE, "gain_db": -100}
    doc["tracks"][0]["clips"].append(silent)
    sound = rendered(doc, MEDIA)
    assert not sound[:, CLIP + tail_of(doc) :].any()
    assert sound[:, CLIP + tail_of(doc) - 2000 :].any()


def test_a_muffle_after_an_echo_does_not_open_on_the_tail():
    chain = [ECHO, effect("muffle", high_cut_hz=300)]
    span = treatment(0, CLIP, *chain, ramp_out={"length": CLIP // 2})
    doc = document(CLIP, treatments=[span])
    tail = rendered(doc, MEDIA)[:, CLIP : CLIP + RATE // 2].astype(np.float64)
    spectrum = np.abs(np.fft.rfft(tail[0] * np.hanning(tail.shape[1]))) ** 2
    hz = np.fft.rfftfreq(tail.shape[1], 1 / RATE)
    share = spectrum[hz > 2000].sum() / spectrum.sum()
    assert share < 1e-4


@pytest.mark.parametrize("cross", [0, 50, 100])
def test_the_loudest_feedback_dies_down(cross):
    doc = reel_with(10 * RATE, effect("echo", time_ms=5, feedback=99, cross=cross))
    sound = rendered(doc, MEDIA)[:, CLIP:]
    seconds = [np.sqrt(np.mean(sound[:, i : i + RATE] ** 2)) for i in range(0, 7 * RATE, RATE)]
    assert all(b < a for a, b in zip(seconds, seconds[1:], strict=False))


def test_what_is_frozen_is_held_and_let_go_at_the_end():
    x = noise(20_000)
    x[:, 8_000:] = 0
    held = keyframes((0, 0, "hold"), (8_000, 1, "hold"))
    room = effect("reverb", mix=100, decay_s=0.3, freeze=held)
    doc = document(200_000, treatments=[treatment(0, 100_000, room)])
    sound = rendered(doc, Memory(m1=x)).astype(np.float64)

    def level(a, b):
        return 10 * np.log10(np.mean(sound[:, a:b] ** 2) + 1e-20)

    # Without freezing it would have fallen by 200 dB a second.
    assert abs(level(90_000, 100_000) - level(20_000, 30_000)) < 1.5
    assert level(120_000, 124_000) < level(90_000, 100_000) - 30
