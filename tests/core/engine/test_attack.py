"""A hit that is cut exactly at its attack reaches the room whole, and does not leak past it.

The bounds are those of the engine's rules: within 0.5 dB of the same hit later, and no more direct
sound than the mix allows.
"""

import numpy as np
import pytest
from test_clicks import N, click_db

from reels import Memory, document, effect, rendered, treatment

RATE = 48000
LATER = RATE // 10
HIT = 288
"""Samples of a hit: 6 ms."""
SENDS = {
    "reverb": {"mix": 100, "decay_s": 1.5, "predelay_ms": 60},
    "echo": {"mix": 100, "time_ms": 150, "feedback": 30},
    "space": {"mix": 100, "predelay_ms": 60, "response": "nave"},
}
HITS = {
    "noise": np.ones(HIT),
    "a click that dies away": np.exp(-np.arange(HIT) / 40),
}


def hit(shape, seed=3):
    x = np.random.default_rng(seed).standard_normal((2, HIT)) * HITS[shape]
    return 0.25 * x / np.abs(x).max()


def db(x):
    return 10 * np.log10(np.mean(np.asarray(x, np.float64) ** 2) + 1e-20)


def laid(shape, at, before=0.0, length=2 * RATE):
    """A sound with a hit, and quiet noise all along."""
    x = np.random.default_rng(9).standard_normal((2, length)) * before
    x[:, at : at + HIT] += hit(shape)
    return x.astype(np.float32)


def judged(doc, media, at, reference_doc, reference_media, reference_at):
    """How much weaker the room is than that of the same hit later, and the direct sound's level."""
    found, late = rendered(doc, media), rendered(reference_doc, reference_media)
    room = slice(at + RATE // 20, at + RATE)
    later = slice(reference_at + RATE // 20, reference_at + RATE)
    direct = found[:, at : at + HIT]
    return db(found[:, room]) - db(late[:, later]), db(direct) - db(hit("noise"))


def whole(kind, x, **more):
    chain = {"effects": [{"id": "e", **effect(kind, **SENDS[kind])}]}
    return document(x.shape[1], clip={"treatment": chain, **more}), Memory(m1=x)


@pytest.mark.parametrize("shape", HITS)
@pytest.mark.parametrize("kind", SENDS)
def test_at_the_first_sample_of_its_file(kind, shape):
    late = whole(kind, laid(shape, LATER))
    weaker, direct = judged(*whole(kind, laid(shape, 0)), 0, *late, LATER)
    assert abs(weaker) <= 0.5
    assert direct <= -100


@pytest.mark.parametrize("before", [0.0, 2e-4])
@pytest.mark.parametrize("shape", HITS)
@pytest.mark.parametrize("kind", SENDS)
def test_at_the_first_sample_of_its_clip(kind, shape, before):
    x = laid(shape, RATE, before)
    late = whole(kind, laid(shape, LATER, before))
    doc, media = whole(kind, x, source_start=RATE, length=RATE)
    weaker, direct = judged(doc, media, 0, *late, LATER)
    assert abs(weaker) <= 0.5
    # The room begins at once, but not so loud.
    assert direct <= -60


@pytest.mark.parametrize("kind", SENDS)
def test_a_clip_of_nothing_but_the_hit(kind):
    x = laid("noise", RATE, 2e-4)
    doc, media = whole(kind, x, source_start=RATE, length=HIT)
    late = whole(kind, laid("noise", LATER))
    weaker, _ = judged(doc, media, 0, *late, LATER)
    assert abs(weaker) <= 0.5


@pytest.mark.parametrize("before", [0.0, 2e-4])
@pytest.mark.parametrize("shape", HITS)
@pytest.mark.parametrize("kind", SENDS)
def test_at_the_first_sample_of_its_span(kind, shape, before):
    x = laid(shape, RATE, before)

    def span(start):
        doc = document(
            x.shape[1], treatments=[treatment(start, RATE // 2, effect(kind, **SENDS[kind]))]
        )
        return doc, Memory(m1=x)

    weaker, direct = judged(*span(RATE), RATE, *span(RATE - LATER), RATE)
    assert abs(weaker) <= 0.5
    assert direct <= -60


@pytest.mark.parametrize("kind", SENDS)
def test_over_a_sound_that_goes_on_the_hit_is_still_there(kind):
    # 33 dB below the hit: no beginning of its own, so there is the shortest glide.
    x = laid("noise", RATE, 0.0015)

    def span(start):
        doc = document(
            x.shape[1], treatments=[treatment(start, RATE // 2, effect(kind, **SENDS[kind]))]
        )
        return doc, Memory(m1=x)

    weaker, _ = judged(*span(RATE), RATE, *span(RATE - LATER), RATE)
    assert abs(weaker) <= 0.5


@pytest.mark.parametrize("hz", [60, 200, 1000, 3000])
@pytest.mark.parametrize("where", ["clip", "span"])
@pytest.mark.parametrize("kind", ["reverb", "echo"])
def test_a_sound_that_is_cut_into_makes_no_click(kind, where, hz):
    worst = -200.0
    for phase in np.arange(16) / 16:
        t = np.arange(2 * N) / RATE
        x = (0.5 * np.sin(2 * np.pi * (hz * t + phase))).astype(np.float32)
        params = {"mix": 100, "decay_s": 2} if kind == "reverb" else {"mix": 100, "time_ms": 400}
        chain = {"effects": [{"id": "e", **effect(kind, **params)}], "ring_out": 4800}
        # Below the clip another one plays the same up to the cut, so that nothing else clicks.
        doc = document(N, treatments=[treatment(20_000, 12_000, effect(kind, **params))])
        doc["tracks"][0]["treatments"][0]["ring_out"] = 4800
        if where == "clip":
            doc = document(20_000)
            own = {"id": "c2", "media": "m1", "start": 20_000, "length": 12_000}
            doc["tracks"][0]["clips"].append({**own, "source_start": 20_000, "treatment": chain})
        sound = rendered(doc, Memory(m1=np.stack([x, x])))[0]
        worst = max(worst, click_db(sound, 20_000))
    assert worst <= -70
