"""The speed and pitch of clips: windows of one stream, moving speeds, lengths that fit."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.signal import butter, sosfilt

from bathyphon.core.errors import Refused
from bathyphon.core.reel.parse import read_reel
from bathyphon.core.reel.places import ClipPlaces
from bathyphon.core.reel.sync import offsets
from bathyphon.core.speed.change import SpeedChange
from bathyphon.core.speed.reading import sound_at
from bathyphon.core.speed.steady import reader
from bathyphon.core.timing.curves import Curve, Keyframe
from bathyphon.core.timing.integral import CurveArea
from edits import apply, assert_all_is_undone_and_redone
from reels import Memory, document, effect, keyframes, noise, rendered, same_bits, treatment

RATE = 48000
LENGTH = 60000
EASES = ["hold", "linear", "smooth", "equal_power", "log", "bend"]
MOVING = keyframes((0, 100, "smooth"), (20000, 60, "hold"), (40000, 140))
SPEEDS = {
    "held": {"percent": 110},
    "followed": {"percent": 110, "pitch": "follow"},
    "shifted": {"percent": 90, "semitones": -3, "cents": 20},
    "moving": {"percent": MOVING},
    "moving, followed": {"percent": MOVING, "pitch": "follow"},
    "moving pitch": {"semitones": keyframes((0, 0), (30000, 7))},
    "all of it": {
        "percent": MOVING,
        "semitones": keyframes((0, 0), (30000, 7)),
        "pitch": "follow",
    },
}


def tones(samples, *partials):
    t = np.arange(samples) / RATE
    x = 0.2 * sum(np.sin(2 * np.pi * f * t) for f in partials)
    return np.stack([x, 0.5 * x]).astype(np.float32)


def reel(speed, length=LENGTH, **clip):
    return document(length, clip={"source_start": 3000, "speed": speed, **clip})


def medium():
    return Memory(m1=noise(200000, 3) + tones(200000, 220, 275, 1333))


def clips_of(doc):
    return {clip["id"]: clip for clip in doc["tracks"][0]["clips"]}


@pytest.mark.parametrize("speed", SPEEDS.values(), ids=SPEEDS)
def test_the_same_bits_whatever_the_block_and_wherever_one_begins(speed):
    media = medium()
    whole = rendered(reel(speed), media)
    assert whole.shape[1] == LENGTH
    assert np.abs(whole).max() > 0.1
    for block in (333, 50001):
        assert same_bits(whole, rendered(reel(speed), media, block=block))
    assert same_bits(whole[:, 41000:], rendered(reel(speed), media, start=41000))


@pytest.mark.parametrize("speed", SPEEDS.values(), ids=SPEEDS)
def test_a_split_changes_no_bit_and_joins_to_what_was(speed):
    media = medium()
    start = reel(speed)
    parts = apply(start, kind="split_clips", ids=["c1"], new=["n1"], at={"sample": 24111}).document
    assert same_bits(rendered(start, media), rendered(parts, media))
    # The later part alone is the same window of the same stream.
    alone = apply(parts, kind="remove_clips", ids=["c1"]).document
    assert same_bits(rendered(start, media)[:, 24111:], rendered(alone, media)[:, 24111:])
    joined = apply(parts, kind="join_clips", ids=["c1", "n1"]).document
    assert joined == start
    thrice = apply(parts, kind="split_clips", ids=["n1"], new=["n2"], at={"sample": 40000}).document
    assert same_bits(rendered(start, media), rendered(thrice, media))


@pytest.mark.parametrize("speed", SPEEDS.values(), ids=SPEEDS)
def test_trimming_the_head_leaves_the_sound_where_it_is(speed):
    media = medium()
    start = reel(speed)
    later = apply(start, kind="trim_clip", id="c1", edge="start", to={"sample": 9000}).document
    assert same_bits(rendered(start, media)[:, 9000:], rendered(later, media)[:, 9000:])
    back = apply(later, kind="trim_clip", id="c1", edge="start", to={"sample": 0}).document
    assert same_bits(rendered(start, media), rendered(back, media))


def test_at_100_percent_a_clip_is_its_medium_bit_for_bit():
    media = medium()
    plain = rendered(document(LENGTH, clip={"source_start": 3000}), media)
    for speed in ({"percent": 100}, {"percent": keyframes((0, 100), (9000, 100))}, {}):
        assert same_bits(rendered(reel(speed), media), plain)


@pytest.mark.parametrize("ease", EASES)
@pytest.mark.parametrize("soft", [0.0, 0.6])
def test_the_integral_of_every_shape(ease, soft):
    """Against sums over samples, by the rule of trapezia."""
    frames = (
        Keyframe(100, 100.0, ease, 0.4, soft),
        Keyframe(5100, 20.0, "hold"),
        Keyframe(9000, 300.0, ease, -0.5, soft),
        Keyframe(9400, 50.0, ease, 0.0, soft),
        Keyframe(12000, 0.0),
    )
    curve = Curve(frames)
    values = curve.values(-500, 14501, RATE)
    sums = np.concatenate([[0.0], np.cumsum(0.5 * (values[1:] + values[:-1]))])
    area = CurveArea(curve, RATE).at(np.arange(-500.0, 14001.0))
    # A sudden turn within a sample is all that the sums do not see.
    assert np.abs(area - area[0] - sums).max() < 10
    assert area[500] == 0.0


@given(
    values=st.lists(st.floats(0, 400), min_size=2, max_size=6),
    eases=st.lists(st.sampled_from(EASES), min_size=6, max_size=6),
    origin=st.integers(0, 30000),
)
@settings(max_examples=60, deadline=None)
def test_places_never_run_backwards_and_can_be_found_again(values, eases, origin):
    frames = [(9000 * i, v, e) for i, (v, e) in enumerate(zip(values, eases, strict=False))]
    speed = {"percent": keyframes(*frames), "origin": origin}
    clip = read_reel(reel(speed)).tracks[0].clips[0]
    places = ClipPlaces(clip, RATE)
    at = places.at(np.arange(LENGTH, dtype=float))
    assert (np.diff(at) >= -1e-6).all()
    # The first moment at which a place is reached is no later than one at which it is there.
    again = places.at(places.when(at[::1000]))
    assert np.abs(again - at[::1000]).max() < 1e-3


def test_tape_comes_to_a_stop_and_falls_silent():
    speed = {"pitch": "follow", "percent": keyframes((0, 100), (24000, 100), (43200, 0))}
    y = rendered(reel(speed), Memory(m1=tones(200000, 400)))[0]
    crossings = [int((np.diff(np.sign(y[a : a + 4800])) != 0).sum()) for a in (12000, 31200, 38400)]
    assert crossings[0] == pytest.approx(80, abs=1)
    # In the middle of a straight fall it runs at what the curve says there.
    assert crossings[1] == pytest.approx(80 * (1 - 9600 / 19200), abs=3)
    assert crossings[2] < crossings[1]
    assert np.abs(y[43200:]).max() == 0.0
    assert np.abs(np.diff(y[42000:43300])).max() < 0.002


def test_a_held_stop_keeps_its_pitch():
    speed = {"percent": keyframes((0, 100), (12000, 100), (20000, 0))}
    y = rendered(reel(speed), Memory(m1=tones(200000, 440)))[0]
    inside = y[30000 : 30000 + 16384] * np.hanning(16384)
    found = np.abs(np.fft.rfft(inside))
    assert np.argmax(found) * RATE / 16384 == pytest.approx(440, abs=RATE / 16384)
    assert np.abs(y[30000:50000]).max() == pytest.approx(0.2, rel=0.1)


def click_db(y, at):
    """Engine rules, 8: what is above 8 kHz around a change, against the sound's own level."""
    high = sosfilt(butter(8, 8000, "high", fs=RATE, output="sos"), y)
    around = high[at - 960 : at + 960].reshape(-1, 480)
    return 20 * np.log10(np.sqrt((around**2).mean(axis=1)).max() / np.std(y[12000:20000]))


def test_a_glide_of_pitch_makes_no_click():
    pitch = keyframes((10000, 0, "hold"), (30000, 5, "hold"), (45000, -4))
    y = rendered(reel({"semitones": pitch}), Memory(m1=tones(200000, 200)))[0]
    assert max(click_db(y, at) for at in (30000, 45000)) < -70


@pytest.mark.parametrize("pitch", ["hold", "follow"])
@pytest.mark.parametrize("material", ["voice", "music"])
def test_no_seam_is_heard_at_keyframes_of_speed(pitch, material):
    percent = keyframes((10000, 100, "hold"), (30000, 60, "hold"), (45000, 140))
    speed = {"percent": percent, "pitch": pitch, "material": material}
    y = rendered(reel(speed), Memory(m1=tones(200000, 200)))[0].astype(float)
    assert max(click_db(y, at) for at in (30000, 45000)) < -80


def test_a_stream_is_the_same_from_a_checkpoint():
    """Somewhere later first, then from the beginning: no sample depends on the way."""
    x = (noise(RATE * 34, 5) + tones(RATE * 34, 110, 330)).astype(float)
    speeding = SpeedChange(Curve.constant(125.0))
    straight = sound_at(speeding, reader(x), RATE)
    whole = np.concatenate([straight.read(a, a + RATE) for a in range(0, 25 * RATE, RATE)], axis=1)
    for at in (22 * RATE + 777, 3 * RATE, 11 * RATE + 1):
        assert np.array_equal(straight.read(at, at + 5000), whole[:, at : at + 5000])
        fresh = sound_at(speeding, reader(x), RATE)
        assert np.array_equal(fresh.read(at, at + 5000), whole[:, at : at + 5000])


def test_what_is_the_same_on_both_sides_is_not_heard_to_be_made_once():
    """A sound with one side that turns up late: computed once before, twice after."""
    mono = noise(200000, 5)[:1].astype(float)
    both = np.concatenate([mono, mono])
    late = both.copy()
    late[1, 150000:] *= 0.5
    speeding = SpeedChange(Curve.constant(90.0))
    a, b = (sound_at(speeding, reader(x), RATE).read(0, 120000) for x in (both, late))
    assert np.array_equal(np.broadcast_to(a, (2, 120000)), np.broadcast_to(b, (2, 120000)))
    c = sound_at(speeding, reader(late), RATE).read(180000, 200000)
    assert np.abs(c[1] - 0.5 * c[0]).max() < 1e-9


def test_a_speed_keeps_the_sound_and_changes_the_length():
    gain = keyframes((0, 0), (24000, -6))
    start = document(12 * RATE, clip={"gain_db": gain})
    fast = apply(start, kind="set_speed", ids=["c1"], percent=120).document
    clip = clips_of(fast)["c1"]
    assert clip["length"] == 10 * RATE
    assert clip["gain_db"]["keyframes"][1]["at"] == 20000
    slow = apply(fast, kind="set_speed", ids=["c1"], percent=80).document
    assert clips_of(slow)["c1"]["length"] == 15 * RATE
    again = apply(slow, kind="set_speed", ids=["c1"], percent=100).document
    assert clips_of(again)["c1"]["length"] == 12 * RATE
    pinned = document(12 * RATE, clip={"gain_db": {**gain, "pinned": True}})
    kept = apply(pinned, kind="set_speed", ids=["c1"], percent=120).document
    assert clips_of(kept)["c1"]["gain_db"]["keyframes"][1]["at"] == 24000


@pytest.mark.parametrize(
    "wanted",
    [{"length": 10 * RATE}, {"to": {"frame": 250}}, {"until": "cut"}, {"until": "gap"}],
    ids=["length", "edge", "cut", "gap"],
)
def test_a_clip_is_fitted(wanted):
    start = document(12 * RATE, picture={"clips": [], "cuts": [100, 250, 600]})
    other = {**start["tracks"][0]["clips"][0], "id": "c2", "start": 10 * RATE, "length": 9600}
    start["tracks"][0]["clips"].append(other)
    done = apply(start, kind="fit_clip", id="c1", **wanted).document
    clip = clips_of(done)["c1"]
    assert clip["length"] == 10 * RATE
    assert clip["speed"]["percent"] == pytest.approx(120, abs=1e-9)
    places = ClipPlaces(read_reel(done).tracks[0].clips[0], RATE)
    assert places.covers() == 12 * RATE


def test_fitting_the_start_moves_the_start():
    start = document(12 * RATE, clip={"start": RATE})
    done = apply(start, kind="fit_clip", id="c1", edge="start", to={"sample": 3 * RATE}).document
    clip = clips_of(done)["c1"]
    assert (clip["start"], clip["length"]) == (3 * RATE, 10 * RATE)
    assert clip["source_start"] == 0


def test_with_ripple_what_follows_moves_with_the_end():
    start = document(48000, treatments=[treatment(60000, 20000, effect("muffle"))])
    first = start["tracks"][0]["clips"][0]
    start["tracks"][0]["clips"].append({**first, "id": "c2", "start": 57600})
    done = apply(start, kind="set_speed", ids=["c1"], percent=50, ripple=True).document
    assert clips_of(done)["c2"]["start"] == 57600 + 48000
    assert done["tracks"][0]["treatments"][0]["start"] == 60000 + 48000
    back = apply(done, kind="set_speed", ids=["c1"], percent=100, ripple=True).document
    assert clips_of(back)["c2"]["start"] == 57600


def test_what_was_fitted_is_forgotten_when_the_clip_is_cut():
    start = apply(document(12 * RATE), kind="set_speed", ids=["c1"], percent=120).document
    for cut in (
        {"kind": "trim_clip", "id": "c1", "edge": "end", "to": {"sample": 5 * RATE}},
        {"kind": "set_clip", "id": "c1", "length": 5 * RATE},
    ):
        short = apply(start, **cut).document
        slow = apply(short, kind="set_speed", ids=["c1"], percent=60).document
        assert clips_of(slow)["c1"]["length"] == 10 * RATE


def test_own_speed_is_given_back():
    start = document(48000, clip={"source_start": 5000})
    done = apply(start, kind="set_speed", ids=["c1"], percent=150, semitones=3).document
    cut = apply(done, kind="trim_clip", id="c1", edge="start", to={"sample": 8000}).document
    back = apply(cut, kind="reset_speed", ids=["c1"]).document
    clip = clips_of(back)["c1"]
    # The speed alone: the pitch stays where it was set.
    assert clip["speed"] == {"semitones": 3}
    assert clip["source_start"] == 5000 + 12000
    assert clip["length"] == 36000
    reset = apply(cut, kind="reset_speed", ids=["c1"], all=True).document
    plain = clips_of(reset)["c1"]
    assert "speed" not in plain
    assert (plain["source_start"], plain["length"]) == (17000, 36000)
    # Of what plays at its own speed nothing is changed.
    assert apply(back, kind="reset_speed", ids=["c1"]).document == back


@pytest.mark.parametrize(
    ("command", "words"),
    [
        ({"kind": "set_speed", "ids": ["c1"], "percent": 5}, "10"),
        ({"kind": "set_speed", "ids": ["c1"], "semitones": 30}, "-24 to 24"),
        ({"kind": "fit_clip", "id": "c1", "length": 10}, "10 to 400 %"),
        ({"kind": "fit_clip", "id": "c1", "until": "gap"}, "no clip after"),
        ({"kind": "fit_clip", "id": "c1"}, "give either"),
    ],
)
def test_what_cannot_be_is_refused_in_a_sentence(command, words):
    with pytest.raises(Refused) as error:
        apply(document(48000), **command)
    assert words in str(error.value)


def test_a_document_with_a_speed_out_of_range_is_refused_with_its_place():
    with pytest.raises(Refused) as error:
        read_reel(reel({"percent": 500}))
    assert error.value.where == "tracks.0.clips.0.speed.percent"
    read_reel(reel({"percent": keyframes((0, 0), (10, 400))}))


def test_lanes_of_speed_and_pitch():
    start = document(48000)
    for value, number in (("percent", 80.0), ("semitones", -3.0), ("cents", 25.0)):
        lane = f"clip:c1/{value}"
        put = [
            {"lane": lane, "moment": {"sample": 0}, "value": number},
            {"lane": lane, "moment": {"sample": 4800}, "value": number / 2},
        ]
        done = apply(start, kind="put_keyframes", keys=put).document
        found = clips_of(done)["c1"]["speed"][value]["keyframes"]
        assert [k["value"] for k in found] == [number, number / 2]


def test_sync_says_what_a_speed_does_to_it():
    start = document(48000)
    start["picture"] = {"clips": [{"media": "m1", "start": 0, "length": 480000}], "cuts": []}
    assert offsets(read_reel(start))["c1"]["samples"] == 0
    done = apply(start, kind="set_speed", ids=["c1"], percent=80).document
    found = offsets(read_reel(done))["c1"]
    # The last of 48,000 samples is heard 12,000 samples late: a quarter of a second.
    assert (found["begins"], found["ends"], found["eye"]) == (0.0, 6.25, "disturbing")


SPED = st.fixed_dictionaries(
    {
        "kind": st.just("set_speed"),
        "ids": st.just(["c1"]),
        "percent": st.sampled_from([50.0, 80.0, 110.0, 123.456, 400.0]),
        "semitones": st.sampled_from([None, 0.0, -3.0]),
        "ripple": st.booleans(),
    }
)
FIT = st.fixed_dictionaries(
    {"kind": st.just("fit_clip"), "id": st.just("c1"), "length": st.integers(9000, 90000)}
)
TRIM = st.fixed_dictionaries(
    {
        "kind": st.just("trim_clip"),
        "id": st.sampled_from(["c1", "n1"]),
        "edge": st.sampled_from(["start", "end"]),
        "to": st.builds(dict, sample=st.integers(0, 90000)),
    }
)
SPLIT = st.fixed_dictionaries(
    {
        "kind": st.just("split_clips"),
        "ids": st.just(["c1"]),
        "new": st.just(["n1"]),
        "at": st.builds(dict, sample=st.integers(0, 90000)),
    }
)
OTHERS = st.sampled_from(
    [
        {"kind": "join_clips", "ids": ["c1", "n1"]},
        {"kind": "reset_speed", "ids": ["c1"]},
        {"kind": "slip_clip", "id": "c1", "samples": 700},
        {"kind": "tie_clips", "ids": ["c1"]},
    ]
)


@given(st.lists(st.one_of(SPED, FIT, TRIM, SPLIT, OTHERS), max_size=12))
@settings(max_examples=60, deadline=None)
def test_any_edits_of_speed_are_undone_and_redone(commands):
    assert_all_is_undone_and_redone(document(60000, clip={"start": 5000}), commands)


def test_pitch_of_a_followed_speed():
    """110 % followed gives +1.650 st; held with −1.650 st gives its own pitch again."""
    media = Memory(m1=tones(300000, 440))

    def pitch(speed):
        y = rendered(reel(speed, 90000), media)[0, 20000:85536]
        found = np.abs(np.fft.rfft(y * np.blackman(y.size), 8 * y.size))
        return 12 * math.log2(np.argmax(found) * RATE / (8 * y.size) / 440)

    assert pitch({"percent": 110, "pitch": "follow"}) == pytest.approx(1.650, abs=0.01)
    back = {"percent": 110, "pitch": "follow", "semitones": -1, "cents": -65.0}
    assert pitch(back) == pytest.approx(0, abs=0.01)
    down = {"percent": 110, "semitones": -1, "cents": -65.0}
    assert pitch(down) == pytest.approx(-1.650, abs=0.01)
