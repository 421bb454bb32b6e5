"""Effects that look ahead answer in time, whatever stands beside them in a chain."""

import numpy as np
import pytest

from bathyphon.core.engine.graph import build_graph
from bathyphon.core.engine.runner import Runner
from bathyphon.core.engine.store import Store
from bathyphon.core.reel.parse import read_reel
from reels import Memory, document, effect, noise, rendered, same_bits, treatment

RATE = 48000
N = 60000
MEDIA = Memory(m1=noise(N, 7, 0.2), m2=noise(N, 8, 0.3))
CHAIN = (
    effect("drive", amount_db=6),
    effect("muffle", high_cut_hz=900),
    effect("vibrato", rate_hz=5),
    effect("space", response="barrel"),
    effect("limit", ceiling_db=-12),
    effect("echo", time_ms=40, feedback=30),
)


def doc_with(*effects, start=9000, length=30000, **more):
    return document(N, treatments=[treatment(start, length, *effects, **more)])


@pytest.mark.parametrize(
    "options", [{"block": 64}, {"block": 333}, {"block": 4096}, {"threads": 2}]
)
def test_a_chain_that_looks_ahead_has_the_same_bits_in_any_blocks(options):
    doc = doc_with(*CHAIN, ramp_in={"length": 3000}, ramp_out={"length": 2000})
    assert same_bits(rendered(doc, MEDIA, **options), rendered(doc, MEDIA, block=N * 4))


@pytest.mark.parametrize("order", [(0, 5, 2, 9), (8, 1, 4)])
def test_live_chunks_in_any_order_equal_the_render(order):
    doc = doc_with(*CHAIN)
    graph = build_graph(read_reel(doc), MEDIA)
    runner = Runner(MEDIA, 4800, store=Store(), piece=1000)
    whole = rendered(doc, MEDIA)
    for chunk in order:
        found = runner.output(graph.out, chunk).astype(np.float32)
        wanted = whole[:, chunk * 4800 : (chunk + 1) * 4800]
        assert same_bits(found[:, : wanted.shape[1]], wanted)


def test_nothing_outside_its_span_and_tail_is_changed():
    source = rendered(document(N), MEDIA)
    found = rendered(doc_with(effect("drive"), effect("limit"), effect("vibrato")), MEDIA)
    assert same_bits(found[:, :9000], source[:, :9000])
    assert same_bits(found[:, 39000:], source[:, 39000:])
    assert not same_bits(found, source)


def test_at_strength_zero_it_is_the_source():
    source = rendered(document(N), MEDIA)
    assert same_bits(rendered(doc_with(*CHAIN, strength=0), MEDIA), source)


@pytest.mark.parametrize("strength", [25, 50, 75])
def test_half_engaged_there_is_no_comb(strength):
    """A limiter that has nothing to do equals its input, whatever share of it is heard."""
    doc = doc_with(effect("limit", ceiling_db=0), effect("drive", amount_db=0, tone_hz=20000),
                   strength=strength)  # fmt: skip
    quiet = Memory(m1=noise(N, 9, 1e-4))
    found, source = rendered(doc, quiet), rendered(document(N), quiet)
    inside = slice(12000, 36000)
    spectra = [np.abs(np.fft.rfft(x[0, inside] * np.hanning(24000))) for x in (found, source)]
    hz = np.fft.rfftfreq(24000, 1 / RATE)
    heard = (hz > 50) & (hz < 19000)
    level = 20 * np.log10(spectra[0][heard] / spectra[1][heard])
    assert np.abs(level).max() < 0.2


def two_tracks(**duck):
    doc = document(N, treatments=[treatment(0, N, effect("duck", track="t2", **duck))])
    doc["media"].append({"id": "m2", "path": "m2.wav"})
    clip = {"id": "c2", "media": "m2", "start": 20000, "length": 20000}
    doc["tracks"].append({"id": "t2", "name": "Voice", "clips": [clip]})
    return doc


def music_db(doc, a, b):
    only = {**doc, "tracks": [doc["tracks"][0], {**doc["tracks"][1], "mute": True}]}
    return 20 * np.log10(rendered(only, MEDIA)[:, a:b].std())


def test_duck_hears_another_track_even_if_that_is_muted():
    doc = two_tracks(range_db=20, attack_ms=5, release_ms=20, threshold_db=-40)
    assert music_db(doc, 25000, 38000) - music_db(doc, 5000, 18000) == pytest.approx(-20, abs=0.5)
    assert music_db(doc, 50000, N) - music_db(doc, 5000, 18000) == pytest.approx(0, abs=0.5)


@pytest.mark.parametrize("options", [{"block": 64}, {"block": 4096}, {"threads": 2}])
def test_listening_has_the_same_bits_in_any_blocks(options):
    doc = two_tracks()
    doc["tracks"][1]["treatments"] = [
        treatment(22000, 9000, effect("limit"), effect("echo"), id="f2")
    ]
    assert same_bits(rendered(doc, MEDIA, **options), rendered(doc, MEDIA, block=N * 4))


def test_tracks_that_listen_to_each_other_are_refused():
    from bathyphon.core.errors import Refused

    doc = two_tracks()
    doc["tracks"][1]["treatments"] = [treatment(0, N, effect("duck", track="t1"), id="f2")]
    with pytest.raises(Refused, match="cannot listen to itself"):
        read_reel(doc)


def test_duck_without_a_track_changes_nothing():
    doc = document(N, treatments=[treatment(0, N, effect("duck"))])
    assert same_bits(rendered(doc, MEDIA), rendered(document(N), MEDIA))
    doc = document(N, treatments=[treatment(0, N, effect("duck", track="gone"))])
    assert same_bits(rendered(doc, MEDIA), rendered(document(N), MEDIA))


def test_a_recorded_response_is_used():
    pulse = np.zeros((2, 3000), np.float32)
    pulse[:, 1000] = 1.0
    media = Memory(m1=noise(N, 7, 0.2), m2=pulse)
    space = {"id": "e", **effect("space", file="m2", mix=100, dry_db=-96)}
    doc = document(N, clip={"treatment": {"effects": [space]}})
    doc["media"].append({"id": "m2", "path": "m2.wav"})
    found, source = rendered(doc, media), rendered(document(N), media)
    # A pulse a thousand samples in is a delay.
    late = found[:, 2000:50000] / source[:, 1000:49000]
    assert np.allclose(late, 1.0, atol=1e-3)


def test_a_response_of_four_channels_is_four_paths():
    paths = np.zeros((4, 3000), np.float32)
    paths[0, 100], paths[1, 300], paths[2, 500], paths[3, 700] = 1.0, 0.5, 0.25, 1.0
    x = np.zeros((2, N), np.float32)
    x[0, 2000] = 0.5
    media = Memory(m1=x, paths=paths)
    space = {"id": "e", **effect("space", file="paths", mix=100, dry_db=-96)}
    doc = document(N, clip={"treatment": {"effects": [space]}})
    doc["media"].append({"id": "paths", "path": "paths.wav"})
    left, right = rendered(doc, media)
    heard = int(np.argmax(rendered(document(N), media)[0]))
    straight, across = heard + 100, heard + 300
    assert np.argmax(left) == straight
    assert np.argmax(right) == across
    assert right[across] / left[straight] == pytest.approx(0.5, abs=1e-3)
    # Nothing came in on the right, whose paths are silent then.
    assert np.abs(left[across:]).max() < 1e-3 * left[straight]
