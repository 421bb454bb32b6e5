"""What an effect makes within its span and tail is never silence because its input is."""

import numpy as np
import pytest

from bathyphon.core.effects import EFFECTS
from bathyphon.core.engine.graph import build_graph
from bathyphon.core.engine.live import Live
from bathyphon.core.reel.parse import read_reel
from reels import Memory, document, effect, noise, rendered, same_bits, treatment
from thinned import in_turn

RATE = 16000
MADE = {
    "flanger": {"feedback": 95, "rate_hz": 0.7},
    "chorus": {"feedback": 50},
    "harmony": {"voices": [{"semitones": 3, "delay_ms": 1900}]},
    "pitch": {"semitones": -4},
    "telephone": {"noise_db": -30},
    "muffle": {"high_cut_hz": 200},
    "drive": {"amount_db": 30},
    "eq": {"bands": [{"type": "peak", "freq_hz": 100, "q": 12, "gain_db": 18}]},
    "reverb": {"decay_s": 0.5},
    "vibrato": {"swing": 100, "rate_hz": 3},
}


def late(*effects, start=0, seconds=8, **more):
    """A sound from 2 to 4 s, and a span that may reach beyond it on both sides."""
    doc = document(
        2 * RATE,
        rate=RATE,
        clip={"start": 2 * RATE},
        treatments=[treatment(start, seconds * RATE, *effects)],
        **more,
    )
    # Long enough to hear all of it, whatever a reel's own end may be.
    doc["picture"] = {"clips": [{"media": "m1", "start": 0, "length": 9 * RATE}]}
    return doc, Memory(m1=noise(2 * RATE, 3))


@pytest.mark.parametrize("kind", EFFECTS)
def test_blocks_do_not_show_where_a_span_is_longer_than_its_sound(kind):
    doc, media = late(effect(kind, **MADE.get(kind, {})))
    whole = rendered(doc, media, block=RATE)
    for block in (1000, 65536):
        assert same_bits(whole, rendered(doc, media, block=block))


def level_db(sound, start, stop):
    part = sound[:, round(start * RATE) : round(stop * RATE)].astype(float)
    return 10 * np.log10((part**2).mean() + 1e-20)


def test_a_voice_that_is_late_is_heard_after_its_sound_has_ended():
    doc, media = late(effect("harmony", **MADE["harmony"]))
    sound = rendered(doc, media)
    assert level_db(sound, 4.1, 5.7) > level_db(sound, 2.1, 3.7) - 20
    assert level_db(sound, 6.1, 8) < -100


def test_a_reel_is_as_long_as_what_sounds_in_it():
    def length(*effects, **more):
        doc, media = late(*effects, **more)
        del doc["picture"]
        return build_graph(read_reel(doc), media).length / RATE

    # A voice 1.9 s late and the second that its memory takes.
    assert 5.9 <= length(effect("harmony", **MADE["harmony"])) <= 7.0
    # A line that hisses does so to the end of its span.
    assert length(effect("telephone", noise_db=-30)) == 8
    # What changes the sound only while it is there does not make it longer.
    assert length(effect("gain", level_db=-6)) == 4
    assert length(effect("muffle")) < 4.3


def test_a_line_hisses_before_its_sound_begins_and_after_it_has_ended():
    doc, media = late(effect("telephone", noise_db=-30, level_db=0))
    sound = rendered(doc, media)
    for start, stop in ((0.2, 1.9), (4.1, 7.9)):
        assert level_db(sound, start, stop) == pytest.approx(-30, abs=1.5)
    assert not sound[:, 8 * RATE :].any()


def test_two_telephones_do_not_hiss_as_one():
    doc, media = late(effect("telephone", noise_db=-30, level_db=0))
    other = {**doc["tracks"][0], "id": "t2"}
    other["clips"] = [{**other["clips"][0], "id": "c2"}]
    other["treatments"] = [{**other["treatments"][0], "id": "f2"}]
    both = {**doc, "tracks": [doc["tracks"][0], other]}
    alone, together = (rendered(d, media) for d in (doc, both))
    gained = level_db(together, 4.5, 7.5) - level_db(alone, 4.5, 7.5)
    assert gained == pytest.approx(3.0, abs=0.3)
    # And each is the same whenever it is asked for.
    assert same_bits(alone, rendered(doc, media, block=777))


EARLY = {
    "pitch": {"semitones": 0.001},
    "space": {"mix": 30, "response": "cell"},
    "reverb": {"mix": 100, "decay_s": 0.4},
    "harmony": {"voices": [{"semitones": 3}], "dry_db": 0},
    "limit": {"ceiling_db": -20},
    "vibrato": {},
    "echo": {"time_ms": 40, "mix": 50},
}


@pytest.mark.parametrize(("kind", "start"), in_turn(EARLY, [-1, -600, -9600, -(2**40)]))
def test_a_span_that_begins_before_the_reel_loses_no_sound(kind, start):
    n = 2 * RATE
    media = Memory(m1=noise(n, 3))

    def sound(at):
        span = treatment(at, n - at, effect(kind, **EARLY[kind]))
        return rendered(document(n, rate=RATE, treatments=[span]), media)[:, :n]

    early, on_time = sound(start), sound(0)
    assert level_db(early, 0, 0.05) == pytest.approx(level_db(on_time, 0, 0.05), abs=2.0)
    assert level_db(early, 0.5, 1.5) == pytest.approx(level_db(on_time, 0.5, 1.5), abs=0.5)
    for block in (1000, 65536):
        span = treatment(start, n - start, effect(kind, **EARLY[kind]))
        doc = document(n, rate=RATE, treatments=[span])
        assert same_bits(rendered(doc, media, block=block), rendered(doc, media, block=7777))


def test_pitch_before_the_reel_is_the_sound_itself_where_nothing_is_moved():
    n = RATE
    media = Memory(m1=noise(n, 3))
    span = treatment(-9600, n + 9600, effect("pitch", semitones=0.001))
    sound = rendered(document(n, rate=RATE, treatments=[span]), media)
    assert level_db(sound, 0, 1) == pytest.approx(level_db(media.read("m1", 0, n), 0, 1), abs=0.3)


PAIRS = [
    (("compress", "echo"), ("ring", "muffle")),
    (("tremolo",), ("tremolo",)),
    (("reverb",), ("space",)),
    (("vibrato",), ("chorus",)),
]


@pytest.mark.parametrize("kinds", PAIRS)
def test_whole_tracks_that_begin_at_different_moments_do_not_share_memories(kinds):
    media = Memory(m1=noise(2 * RATE, 3))
    tracks = []
    for t, chain in enumerate((*kinds, kinds[0])):
        parts = [{"id": f"e{i}", **effect(kind)} for i, kind in enumerate(chain)]
        start = (3, 5, 4)[t] * RATE
        clip = {"id": f"c{t}", "media": "m1", "start": start, "length": RATE}
        tracks.append({"id": f"t{t}", "clips": [clip], "treatment": {"effects": parts}})
    doc = document(RATE, rate=RATE, tracks=tracks)
    live = Live(RATE)
    for _ in range(2):
        whole = rendered(doc, media)
        playing = live.playing(build_graph(read_reel(doc), media), media)
        for index in (6, 5, 3, 4, 0):
            second = whole[:, index * RATE : (index + 1) * RATE]
            assert same_bits(playing.block(index), np.ascontiguousarray(second))
        # Then a clip moves, on the same memory.
        tracks[0] = {**tracks[0], "clips": [{**tracks[0]["clips"][0], "start": 5 * RATE}]}
        doc = {**doc, "tracks": tracks}
