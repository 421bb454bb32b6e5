"""The engine: identity outside a treatment, same bits for any block, ramps, mix and stems."""

import numpy as np
import pytest

from bathyphon.core.engine.graph import build_graph
from bathyphon.core.engine.render import render
from bathyphon.core.reel.parse import read_reel
from bathyphon.core.timing.clock import Clock, parse_rate
from reels import Memory, document, effect, keyframes, noise, rendered, same_bits, treatment
from thinned import in_turn

N = 60_000
MEDIA = Memory(m1=noise(N), m2=noise(N, 2))
MOVING = effect(
    "muffle",
    amount=keyframes((0, 40), (9000, 100, "smooth"), (20000, 70)),
    high_cut_hz=keyframes((0, 4000, "hold"), (5000, 500), (15000, 2000, "log")),
    resonance=keyframes((0, 0.7), (20000, 4)),
    wobble=keyframes((0, 0), (10000, 60)),
    wobble_hz=keyframes((0, 1), (10000, 7)),
    level_db=keyframes((0, 0), (10000, -12)),
    low_cut_hz=keyframes((0, 20), (10000, 200)),
    width=keyframes((0, 100), (10000, 20)),
)
MOVING_ECHO = effect(
    "echo",
    time_ms=keyframes((0, 40), (20000, 90, "smooth")),
    feedback=keyframes((0, 20), (20000, 60)),
    right_time_ms=70,
    cross=keyframes((0, 0), (20000, 100)),
    high_cut_hz=keyframes((0, 20000), (20000, 2000)),
    low_cut_hz=keyframes((0, 20), (20000, 400)),
    mix=keyframes((0, 30), (20000, 80)),
    level_db=keyframes((0, -3), (20000, 3)),
    dry_db=keyframes((0, 0), (20000, -6)),
)
MOVING_REVERB = effect(
    "reverb",
    decay_s=keyframes((0, 0.3), (9000, 0.1), (20000, 0.2)),
    size=keyframes((0, 40), (20000, 120, "smooth")),
    mix=keyframes((0, 30), (20000, 80)),
    predelay_ms=keyframes((0, 0), (20000, 20)),
    treble_decay=keyframes((0, 0.5), (20000, 1)),
    bass_decay=keyframes((0, 1), (20000, 1.5)),
    early_db=keyframes((0, -20), (20000, -6)),
    diffusion=keyframes((0, 20), (20000, 90)),
    width=keyframes((0, 100), (20000, 30)),
    low_cut_hz=keyframes((0, 10), (20000, 300)),
    high_cut_hz=keyframes((0, 20000), (20000, 3000)),
    freeze=keyframes((0, 0, "hold"), (8000, 1, "hold"), (14000, 0, "hold")),
    dry_db=keyframes((0, 0), (20000, -6)),
)
GAIN = effect("gain", level_db=keyframes((0, 0), (10000, -96, "hold"), (15000, 6)))


def busy() -> dict:
    """Two tracks with treatments on a clip, spans, a track and the mix."""
    doc = document(
        N,
        treatments=[
            treatment(7001, 20011, GAIN, MOVING, MOVING_ECHO, ramp_in={"length": 4804}),
            treatment(12000, 9000, effect("echo", repeats=3, drop_db=5, time_ms=33), id="f2"),
        ],
        clip={"treatment": {"effects": [{"id": "x", **effect("echo", time_ms=20)}]}},
    )
    doc["media"].append({"id": "m2", "path": "m2.wav"})
    doc["tracks"].append(
        {
            "id": "t2",
            "gain_db": keyframes((0, -3), (30000, 3)),
            "pan": keyframes((0, -100), (30000, 50)),
            "clips": [
                {
                    "id": "c2",
                    "media": "m2",
                    "start": 1234,
                    "length": 30000,
                    "source_start": 77,
                    "gain_db": keyframes((0, 0), (30000, -20)),
                    "fade_in": {"length": 3000, "shape": "equal_power"},
                    "fade_out": {"length": 5000, "shape": "log"},
                }
            ],
            "treatment": {"effects": [{"id": "y", **MOVING}]},
            "treatments": [
                treatment(3000, 25_000, MOVING_REVERB, id="f3", ring_out=9000),
            ],
        }
    )
    doc["mix"] = {"gain_db": -1, "treatment": {"effects": [{"id": "z", **MOVING_ECHO}]}}
    return doc


WHOLE = rendered(busy(), MEDIA, block=2**40)


@pytest.mark.parametrize(("block", "threads"), in_turn([64, 333, 4096], [1, 2]))
def test_same_bits_whatever_the_block(block, threads):
    sizes: dict[str, set[int]] = {}
    sound = rendered(
        busy(),
        MEDIA,
        block=block,
        threads=threads,
        probe=lambda id, n: sizes.setdefault(id, set()).add(n),
    )
    assert same_bits(sound, WHOLE)
    # Every processor really received blocks of that size, and none larger.
    assert {max(s) for s in sizes.values()} == {block}


def test_same_bits_for_blocks_of_one_sample():
    span = treatment(300, 900, MOVING, MOVING_REVERB, MOVING_ECHO, ring_out=500)
    doc = document(2000, treatments=[span])
    assert same_bits(rendered(doc, MEDIA, block=1), rendered(doc, MEDIA, block=2**40))


def test_a_slice_is_that_slice_of_the_whole():
    for a, b in [(0, 10), (5_000, 26_001), (40_000, WHOLE.shape[1])]:
        assert same_bits(rendered(busy(), MEDIA, start=a, stop=b), WHOLE[:, a:b].copy())


@pytest.mark.parametrize("start", [0, 9_999, 24_000])
@pytest.mark.parametrize("kind", [MOVING, GAIN, effect("muffle")])
def test_outside_its_span_a_treatment_leaves_every_bit(kind, start):
    span = 12_345
    sound = rendered(document(N, treatments=[treatment(start, span, kind)]), MEDIA)
    plain = MEDIA.read("m1", 0, N)
    assert same_bits(sound[:, :start].copy(), plain[:, :start].copy())
    assert same_bits(sound[:, start + span :].copy(), plain[:, start + span :].copy())
    assert not same_bits(sound, plain)


def test_before_an_echo_and_after_its_tail_every_bit_is_left():
    doc = document(N, treatments=[treatment(10_000, 5_000, effect("echo", time_ms=20))])
    tail = build_graph(read_reel(doc), MEDIA).tails["tracks.0.treatments.0"]
    end = 15_000 + tail
    assert end < N
    sound, plain = rendered(doc, MEDIA), MEDIA.read("m1", 0, N)
    assert same_bits(sound[:, :10_000].copy(), plain[:, :10_000].copy())
    assert same_bits(sound[:, end:].copy(), plain[:, end:].copy())
    assert (sound[:, end - 2000 : end] != plain[:, end - 2000 : end]).any()


@pytest.mark.parametrize("kind", [MOVING, MOVING_ECHO, GAIN])
def test_at_strength_zero_every_bit_is_left(kind):
    plain = MEDIA.read("m1", 0, N)
    zero = document(N, treatments=[treatment(0, N, kind, strength=0)])
    assert same_bits(rendered(zero, MEDIA), plain)
    moving = treatment(0, N, kind, strength=keyframes((20_000, 0), (30_000, 100)))
    sound = rendered(document(N, treatments=[moving]), MEDIA)[:, :N]
    assert same_bits(sound[:, :20_001].copy(), plain[:, :20_001].copy())
    assert not same_bits(sound.copy(), plain)


@pytest.mark.parametrize("rate", [44100, 48000, 96000])
@pytest.mark.parametrize("frame_rate", ["24/1", "25/1", "30/1", "24000/1001", "30000/1001"])
def test_ramps_fall_on_the_samples_of_their_frames(frame_rate, rate):
    clock = Clock(parse_rate(frame_rate), rate, drop_frame=frame_rate == "30000/1001")
    first, last = clock.sample_of_frame(7), clock.sample_of_frame(31)
    head = clock.sample_of_frame(10) - first
    foot = last - clock.sample_of_frame(25)
    n = clock.sample_of_frame(40)
    media = Memory(m1=np.ones((2, n), np.float32))
    doc = document(
        n,
        rate=rate,
        frame_rate=frame_rate,
        drop_frame=clock.drop_frame,
        treatments=[
            treatment(
                first,
                last - first,
                effect("gain", level_db=-20),
                ramp_in={"length": head},
                ramp_out={"length": foot},
            )
        ],
    )
    level = 20 * np.log10(rendered(doc, media)[0])
    k = np.arange(n) - first
    d = np.clip(np.minimum(k / head, (last - first - k) / foot), 0, 1)
    u = np.minimum(d / 0.02, 1)
    # The sweep glides in decibels and blends in over its first 2 % of strength.
    w = 3 * u**2 - 2 * u**3
    expected = 20 * np.log10(1 + w * (10 ** (-d) - 1))
    np.testing.assert_allclose(level, expected, atol=1e-4)
    changed = np.flatnonzero(level)
    assert first < changed[0]
    assert changed[-1] < last
    np.testing.assert_allclose(level[first + head : last - foot + 1], -20, atol=1e-5)


def test_a_ramp_of_no_length_is_a_five_millisecond_glide():
    media = Memory(m1=np.ones((2, N), np.float32))
    sound = rendered(
        document(N, treatments=[treatment(10_000, 10_000, effect("gain", level_db=-96))]), media
    )[0]
    assert sound[10_000] == 1.0
    assert (sound[10_240:19_760] == 0.0).all()
    assert (np.diff(sound[10_000:10_240]) <= 0).all()
    assert (np.diff(sound[19_760:20_001]) >= 0).all()
    assert sound[20_000] == 1.0


def test_stems_add_up_to_the_mix_bit_for_bit():
    doc = busy() | {"mix": {}}
    graph = build_graph(read_reel(doc), MEDIA)
    for part in render(graph, MEDIA, stems=True):
        total = np.zeros(part.mix.shape)
        for stem in part.stems:
            total = total + stem
        assert same_bits(total.astype(np.float32), part.mix)


def test_untreated_drops_treatments_and_keeps_length_gain_and_pan():
    doc = busy()
    bare = rendered(doc, MEDIA, treated=False)
    assert bare.shape == WHOLE.shape
    for track in doc["tracks"]:
        track["treatments"] = []
        track["treatment"] = {"effects": []}
        for clip in track["clips"]:
            clip["treatment"] = {"effects": []}
    doc["mix"]["treatment"] = {"effects": []}
    expected = rendered(doc, MEDIA)
    assert same_bits(bare[:, : expected.shape[1]].copy(), expected)
    assert not bare[:, expected.shape[1] :].any()


def test_mute_and_solo():
    doc = busy()
    both = rendered(doc, MEDIA)
    doc["tracks"][1]["mute"] = True
    first = rendered(doc, MEDIA)
    doc["tracks"][1]["mute"] = False
    doc["tracks"][0]["solo"] = True
    assert same_bits(rendered(doc, MEDIA), first)
    assert not same_bits(first, both)


def test_bypass_of_an_effect_or_a_chain_leaves_every_bit():
    plain = MEDIA.read("m1", 0, N)
    off = effect("muffle") | {"bypass": True}
    assert same_bits(rendered(document(N, treatments=[treatment(0, N, off)]), MEDIA), plain)
    chain = treatment(0, N, effect("muffle"), bypass=True)
    assert same_bits(rendered(document(N, treatments=[chain]), MEDIA), plain)


def test_a_clip_with_a_chain_that_is_not_a_send_is_treated_from_its_first_sample():
    media = Memory(m1=np.ones((2, N), np.float32))
    clip = {"treatment": {"effects": [{"id": "g", **effect("gain", level_db=-96)}]}}
    assert not rendered(document(N, clip=clip), media).any()
