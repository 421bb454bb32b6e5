"""Clips: moved by frames, trimmed, divided, joined, copied, removed with or without their gap."""

from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathyphon.core.errors import Refused
from bathyphon.core.reel.parse import read_reel
from bathyphon.core.reel.places import ClipPlaces
from bathyphon.core.reel.sync import eye_of, offsets
from bathyphon.core.timing.clock import Clock
from edits import apply, assert_all_is_undone_and_redone
from reels import Memory, document, effect, keyframes, noise, rendered, treatment

NTSC = Clock(Fraction(30000, 1001), 48000)
N = 96000


def clips_of(doc, track=0):
    return {clip["id"]: clip for clip in doc["tracks"][track]["clips"]}


def three_clips(rate="25/1"):
    """Three clips of a second on the first track, one on the second, a span on the third clip."""
    doc = document(48000, frame_rate=rate, treatments=[treatment(100000, 40000, effect("muffle"))])
    first = doc["tracks"][0]["clips"][0]
    doc["tracks"][0]["clips"] = [
        {**first, "id": f"c{k}", "start": 48000 * k, "length": 48000, "source_start": 1000 * k}
        for k in range(3)
    ]
    other = {**doc["tracks"][0], "id": "t2", "treatments": []}
    other["clips"] = [{**first, "id": "d0", "start": 48000, "length": 48000}]
    doc["tracks"].append(other)
    return doc


IDS = st.sampled_from(["c0", "c1", "c2", "d0", "n0", "n1", "n2"])
MOMENT = st.builds(dict, frame=st.integers(0, 90)) | st.builds(dict, sample=st.integers(0, 150000))
COMMANDS = st.one_of(
    st.fixed_dictionaries(
        {
            "kind": st.just("move_clips"),
            "ids": st.lists(IDS, min_size=1, max_size=3, unique=True),
            "frames": st.integers(-30, 60),
            "track": st.sampled_from([None, "t1", "t2"]),
        }
    ),
    st.fixed_dictionaries(
        {
            "kind": st.just("trim_clip"),
            "id": IDS,
            "edge": st.sampled_from(["start", "end"]),
            "to": MOMENT,
        }
    ),
    st.fixed_dictionaries(
        {"kind": st.just("slip_clip"), "id": IDS, "samples": st.integers(-999, 999)}
    ),
    st.fixed_dictionaries(
        {
            "kind": st.just("split_clips"),
            "ids": st.lists(IDS, min_size=1, max_size=1),
            "new": st.lists(st.sampled_from(["n0", "n1", "n2"]), min_size=1, max_size=1),
            "at": MOMENT,
        }
    ),
    st.fixed_dictionaries(
        {"kind": st.just("join_clips"), "ids": st.lists(IDS, min_size=2, max_size=2, unique=True)}
    ),
    st.fixed_dictionaries(
        {
            "kind": st.just("copy_clips"),
            "ids": st.lists(IDS, min_size=1, max_size=1),
            "new": st.lists(st.sampled_from(["n0", "n1", "n2"]), min_size=1, max_size=1),
            "at": MOMENT,
        }
    ),
    st.fixed_dictionaries(
        {
            "kind": st.just("remove_clips"),
            "ids": st.lists(IDS, min_size=1, max_size=3, unique=True),
            "close_gap": st.booleans(),
        }
    ),
    st.fixed_dictionaries(
        {
            "kind": st.just("set_crossfade"),
            "id": IDS,
            "edge": st.sampled_from(["in", "out"]),
            "law": st.sampled_from(["auto", "equal_gain", "equal_power"]),
        }
    ),
)


@settings(max_examples=150, deadline=None)
@given(commands=st.lists(COMMANDS, max_size=20), rate=st.sampled_from(["25/1", "30000/1001"]))
def test_undoing_all_gives_the_identical_document_and_redoing_all_the_identical_end(commands, rate):
    assert_all_is_undone_and_redone(three_clips(rate), commands)


def test_moves_by_frame_over_an_hour_do_not_drift_at_30000_1001():
    doc = document(48000, frame_rate="30000/1001")
    frames = [1, 5, -3, 7, 29, -1] * 300 + [100000]
    for by in frames:
        doc = apply(doc, kind="move_clips", ids=["c1"], frames=by).document
    assert clips_of(doc)["c1"]["start"] == NTSC.sample_of_frame(sum(frames))
    with pytest.raises(Refused, match="begin before the reel"):
        apply(doc, kind="move_clips", ids=["c1"], frames=-sum(frames) - 1)


def test_several_clips_move_together_and_to_another_track_with_their_treatment():
    doc = three_clips()
    doc["tracks"][0]["clips"][1]["treatment"] = {"effects": [{"id": "e", **effect("echo")}]}
    doc = apply(doc, kind="move_clips", ids=["c0", "c1"], frames=25, track="t2").document
    assert list(clips_of(doc, 0)) == ["c2"]
    assert [c["start"] for c in clips_of(doc, 1).values()] == [48000, 48000, 96000]
    assert clips_of(doc, 1)["c1"]["treatment"]["effects"][0]["kind"] == "echo"


def test_a_trimmed_clip_sounds_as_before_where_it_still_is():
    media = Memory(m1=noise(N))
    moving = {"gain_db": keyframes((0, 0.0), (48000, -12.0))}
    doc = document(N, clip=moving)
    whole = rendered(doc, media)
    head = apply(doc, kind="trim_clip", id="c1", edge="start", to={"frame": 10}).document
    both = apply(head, kind="trim_clip", id="c1", edge="end", to={"frame": 40}).document
    a, b = 10 * 1920, 40 * 1920
    assert np.array_equal(rendered(both, media)[:, a:b], whole[:, a:b])
    assert not rendered(both, media)[:, :a].any()


def test_a_split_changes_no_sample_and_joining_gives_back_the_same_clip():
    media = Memory(m1=noise(N))
    fades = {"fade_in": {"length": 3000, "shape": "smooth"}, "fade_out": {"length": 5000}}
    doc = document(N, clip={**fades, "gain_db": keyframes((0, 0.0), (80000, -9.0))})
    split = apply(doc, kind="split_clips", ids=["c1"], new=["c2"], at={"frame": 21}).document
    assert len(split["tracks"][0]["clips"]) == 2
    assert np.array_equal(rendered(split, media), rendered(doc, media))
    assert apply(split, kind="join_clips", ids=["c2", "c1"]).document == doc


def test_what_does_not_go_on_is_not_joined():
    doc = three_clips()
    with pytest.raises(Refused, match="sound goes on"):
        apply(doc, kind="join_clips", ids=["c0", "c1"])
    with pytest.raises(Refused, match="begins where the other ends"):
        apply(doc, kind="join_clips", ids=["c0", "c2"])


@pytest.mark.parametrize("rate", ["25/1", "30000/1001"])
def test_closing_a_gap_moves_later_clips_and_spans_up_by_frames(rate):
    clock = three_clips(rate)
    frames = Clock(Fraction(rate), 48000)
    doc = clock
    for k, clip in enumerate(doc["tracks"][0]["clips"]):
        clip["start"] = frames.sample_of_frame(30 * k)
        clip["length"] = frames.sample_of_frame(30 * k + 30) - clip["start"]
    span = doc["tracks"][0]["treatments"][0]
    span["start"] = frames.sample_of_frame(65)
    doc = apply(doc, kind="remove_clips", ids=["c0"], close_gap=True).document
    assert clips_of(doc)["c1"]["start"] == 0
    assert clips_of(doc)["c2"]["start"] == frames.sample_of_frame(30)
    assert doc["tracks"][0]["treatments"][0]["start"] == frames.sample_of_frame(35)
    assert clips_of(doc, 1)["d0"]["start"] == 48000
    left = apply(doc, kind="remove_clips", ids=["c1"]).document
    assert clips_of(left)["c2"]["start"] == frames.sample_of_frame(30)


def test_copies_keep_their_distance_in_frames_and_trimming_shortens_fades():
    doc = three_clips()
    doc["tracks"][0]["clips"][0]["fade_out"] = {"length": 9600}
    copied = apply(
        doc, kind="copy_clips", ids=["c0", "c1"], new=["n0", "n1"], at={"frame": 100}
    ).document
    assert [clips_of(copied)[id]["start"] for id in ("n0", "n1")] == [192000, 240000]
    short = apply(doc, kind="trim_clip", id="c0", edge="end", to={"frame": 2}).document
    assert clips_of(short)["c0"]["fade_out"]["length"] == 3840
    with pytest.raises(Refused, match="end after it begins"):
        apply(doc, kind="trim_clip", id="c1", edge="start", to={"frame": 50})


def test_sound_that_belongs_to_the_picture_tells_how_far_it_is_out_and_comes_back():
    doc = document(48000, picture={"clips": [{"media": "m1", "start": 9600, "length": 96000}]})
    doc["tracks"][0]["clips"][0] |= {"start": 9600 + 1920, "source_start": 1920}
    assert offsets(read_reel(doc))["c1"]["eye"] == "in sync"
    late = apply(doc, kind="move_clips", ids=["c1"], frames=4).document
    assert offsets(read_reel(late))["c1"] == {
        "samples": 7680,
        "frames": 4.0,
        "ms": 160.0,
        "eye": "noticed",
        "begins": 4.0,
        "ends": 4.0,
    }
    cut = apply(late, kind="trim_clip", id="c1", edge="start", to={"frame": 20}).document
    assert offsets(read_reel(cut))["c1"]["samples"] == 7680
    assert (
        apply(late, kind="sync_clips", ids=["c1"]).document
        == apply(doc, kind="set_clip", id="c1", start=11520).document
    )


def test_a_clip_is_tied_by_hand_and_its_copy_is_not():
    doc = apply(document(48000), kind="tie_clips", ids=["c1"]).document
    early = apply(doc, kind="slip_clip", id="c1", samples=4800).document
    assert offsets(read_reel(early))["c1"]["samples"] == -4800
    back = apply(early, kind="sync_clips", ids=["c1"]).document
    assert clips_of(back)["c1"]["start"] == 4800
    copied = apply(doc, kind="copy_clips", ids=["c1"], new=["c2"], at={"frame": 50}).document
    assert list(offsets(read_reel(copied))) == ["c1"]
    free = apply(doc, kind="tie_clips", ids=["c1"], tied=False).document
    assert offsets(read_reel(free)) == {}


@pytest.mark.parametrize(
    ("ms", "eye"),
    [
        (0, "in sync"),
        (-44, "unnoticed"),
        (-46, "noticed"),
        (-91, "disturbing"),
        (124, "unnoticed"),
        (126, "noticed"),
        (186, "disturbing"),
    ],
)
def test_what_the_eye_notices(ms, eye):
    """Source: ITU-R BT.1359-1, from memory."""
    assert eye_of(ms) == eye


def overlapping(other_media=False):
    doc = three_clips()
    doc["media"].append({"id": "m2", "path": "b"})
    if other_media:
        doc["tracks"][0]["clips"][1]["media"] = "m2"
    return apply(doc, kind="move_clips", ids=["c1"], frames=-5).document


@pytest.mark.parametrize(("other", "shape"), [(False, "linear"), (True, "equal_power")])
def test_clips_that_come_to_overlap_fade_into_each_other(other, shape):
    """Common practice: equal gain within one file, equal power between two."""
    doc = overlapping(other)
    fade = {"length": 9600, "shape": shape, "auto": True}
    assert clips_of(doc)["c0"]["fade_out"] == fade == clips_of(doc)["c1"]["fade_in"]
    more = apply(doc, kind="trim_clip", id="c0", edge="end", to={"frame": 23}).document
    assert clips_of(more)["c1"]["fade_in"]["length"] == 3 * 1920
    apart = apply(doc, kind="move_clips", ids=["c1"], frames=5).document
    assert "fade_in" not in clips_of(apart)["c1"]
    assert "fade_out" not in clips_of(apart)["c0"]


def test_a_crossfade_of_one_sound_with_itself_changes_no_level():
    media = Memory(m1=np.full((2, 200000), 0.5, np.float32))
    y = rendered(overlapping(), media)[0]
    assert np.abs(y[:48000] - y[0]).max() < 1e-6


def test_a_fade_set_by_hand_is_left_alone():
    doc = three_clips()
    doc["tracks"][0]["clips"][0]["fade_out"] = {"length": 480}
    doc = apply(doc, kind="move_clips", ids=["c1"], frames=-5).document
    assert clips_of(doc)["c0"]["fade_out"] == {"length": 480}


def test_clips_moved_to_a_moment_keep_their_distance_in_frames():
    doc = three_clips("30000/1001")
    for k, clip in enumerate(doc["tracks"][0]["clips"]):
        clip["start"] = NTSC.sample_of_frame(31 * k)
    moved = apply(doc, kind="move_clips", ids=["c1", "c0", "c2"], to={"frame": 101}).document
    starts = [clips_of(moved)[id]["start"] for id in ("c0", "c1", "c2")]
    assert starts == [NTSC.sample_of_frame(frame) for frame in (70, 101, 132)]


def test_a_fade_is_set_in_frames_within_the_room_that_is_left():
    doc = document(48000, frame_rate="30000/1001")
    doc = apply(doc, kind="set_fade", id="c1", edge="in", fade={"frames": 3}).document
    assert clips_of(doc)["c1"]["fade_in"] == {"length": NTSC.sample_of_frame(3)}
    fade = {"length": 60000, "shape": "smooth"}
    doc = apply(doc, kind="set_fade", id="c1", edge="out", fade=fade).document
    room = 48000 - NTSC.sample_of_frame(3)
    assert clips_of(doc)["c1"]["fade_out"] == {"length": room, "shape": "smooth"}
    own = apply(overlapping(), kind="set_fade", id="c0", edge="out", fade={"frames": 5}).document
    assert "auto" not in clips_of(own)["c0"]["fade_out"]


@pytest.mark.parametrize("close_gap", [False, True])
def test_of_several_clips_those_named_are_removed_whatever_their_order(close_gap):
    doc = three_clips()
    doc["tracks"][0]["clips"].reverse()
    for ids in (["c2", "c0"], ["c0", "c2"], ["c1", "c2"]):
        left = apply(doc, kind="remove_clips", ids=ids, close_gap=close_gap).document
        assert set(clips_of(left)) == {"c0", "c1", "c2"} - set(ids)
        assert set(clips_of(left, 1)) == {"d0"}


def test_clips_are_given_the_fades_of_another_in_frames():
    doc = three_clips("30000/1001")
    first = doc["tracks"][0]["clips"][0]
    first["fade_in"] = {"length": NTSC.sample_of_frame(5), "shape": "smooth", "auto": True}
    first["fade_out"] = {"length": 100, "shape": "log"}
    doc["tracks"][0]["clips"][2]["length"] = 6000
    edit = apply(doc, kind="copy_fades", id="c0", to=["d0", "c2"])
    given = {**clips_of(edit.document), **clips_of(edit.document, 1)}
    start = given["d0"]["start"]
    # The clip does not begin on a frame, so that samples are kept.
    assert given["d0"]["fade_in"] == {"length": NTSC.sample_of_frame(5), "shape": "smooth"}
    assert start == 48000
    assert given["d0"]["fade_out"] == {"length": 100, "shape": "log"}
    assert given["c2"]["fade_in"]["length"] == 6000
    assert given["c2"]["fade_out"]["length"] == 0
    assert_all_is_undone_and_redone(doc, [{"kind": "copy_fades", "id": "c0", "to": ["c1"]}])


@pytest.mark.parametrize(
    ("law", "shape"), [("equal_gain", "linear"), ("equal_power", "equal_power")]
)
def test_the_law_of_a_crossfade_can_be_chosen_and_goes_on_following(law, shape):
    for other in (False, True):
        doc = overlapping(other)
        doc = apply(doc, kind="set_crossfade", id="c1", edge="in", law=law).document
        fade = {"length": 9600, "shape": shape, "auto": True, "law": law}
        assert clips_of(doc)["c0"]["fade_out"] == fade == clips_of(doc)["c1"]["fade_in"]
        more = apply(doc, kind="move_clips", ids=["c1"], frames=2).document
        assert clips_of(more)["c1"]["fade_in"] == {**fade, "length": 3 * 1920}
        back = apply(doc, kind="set_crossfade", id="c0", edge="out", law="auto").document
        assert clips_of(back)["c1"]["fade_in"] == clips_of(overlapping(other))["c1"]["fade_in"]


def test_a_crossfade_can_be_taken_back_from_fades_set_by_hand():
    doc = apply(overlapping(), kind="set_fade", id="c0", edge="out", fade={"frames": 1}).document
    doc = apply(doc, kind="set_crossfade", id="c0", edge="out", law="auto").document
    assert clips_of(doc)["c0"]["fade_out"] == {"length": 9600, "shape": "linear", "auto": True}
    with pytest.raises(Refused, match="overlaps its beginning"):
        apply(doc, kind="set_crossfade", id="c0", edge="in", law="auto")


def test_treatments_are_brought_along_in_frames_and_to_the_other_track():
    doc = three_clips("30000/1001")
    span = {"id": "f", "start": NTSC.sample_of_frame(3), "length": NTSC.sample_of_frame(10)}
    span["length"] = NTSC.sample_of_frame(13) - span["start"]
    doc["tracks"][0]["treatments"] = [{**span, "effects": []}]
    moved = apply(doc, kind="bring_along", ids=["f"], frames=31, track="t2")
    (there,) = moved.document["tracks"][1]["treatments"]
    assert there["start"] == NTSC.sample_of_frame(34)
    assert there["start"] + there["length"] == NTSC.sample_of_frame(44)
    assert moved.document["tracks"][0]["treatments"] == []
    with pytest.raises(Refused, match="before the reel"):
        apply(doc, kind="bring_along", ids=["f"], frames=-4)


@pytest.mark.parametrize("bend", [-0.5, 0.3])
def test_bent_ramps_and_fades_follow_their_formula(bend):
    """ENGINE rules, 3: u^(4^b)."""
    doc = three_clips()
    doc = apply(doc, kind="set_fade", id="c0", edge="in",
                fade={"length": 4800, "shape": "bend", "bend": bend}).document  # fmt: skip
    media = Memory(m1=np.full((2, 200000), 0.5, np.float32))
    y = rendered(doc, media)[0]
    u = np.arange(4800) / 4800
    assert np.abs(y[:4800] - 0.5 * u ** (4.0**bend)).max() < 1e-6


def test_a_treatment_passes_those_that_overlap_it_in_the_order_of_processing():
    doc = three_clips()
    spans = {"a": (0, 9), "elsewhere": (50, 9), "b": (5, 9), "c": (7, 9)}
    doc["tracks"][0]["treatments"] = [
        {"id": id, "start": start, "length": length, "effects": []}
        for id, (start, length) in spans.items()
    ]

    def ordered(**by):
        moved = apply(doc, kind="order_treatment", **by).document
        return [t["id"] for t in moved["tracks"][0]["treatments"]]

    assert ordered(id="b", by=-1) == ["b", "a", "elsewhere", "c"]
    assert ordered(id="a", by=1) == ["elsewhere", "b", "a", "c"]
    assert ordered(id="a", by=5) == ["elsewhere", "b", "c", "a"]
    with pytest.raises(Refused, match="no treatment that overlaps"):
        ordered(id="elsewhere", by=1)
    with pytest.raises(Refused, match="either a place"):
        ordered(id="a")


@pytest.mark.parametrize("frames", [-7, 0, 3, 25])
@pytest.mark.parametrize(
    "speed", [{}, {"percent": 50}, {"percent": 150.0, "origin": 900},
              {"percent": {"keyframes": [{"at": 0, "value": 60}, {"at": 40000, "value": 180}]}}],
)  # fmt: skip
def test_what_is_slipped_is_heard_so_many_frames_later_at_any_speed(speed, frames):
    doc = three_clips()
    doc["tracks"][0]["clips"][1] |= {"speed": speed, "source_start": 100000}
    slipped = apply(doc, kind="slip_clip", id="c1", frames=frames).document
    before, after = (
        ClipPlaces(next(c for c in read_reel(d).tracks[0].clips if c.id == "c1"), 48000)
        for d in (doc, slipped)
    )
    by = frames * 1920
    heard_before, heard_after = max(0, -by), max(0, by)
    was, now = before.at(np.array([heard_before])), after.at(np.array([heard_after]))
    assert abs(float(was[0] - now[0])) <= 1


def test_a_slip_stops_at_the_beginning_of_the_sound_and_needs_one_measure():
    doc = three_clips()
    doc["tracks"][0]["clips"][1] |= {"speed": {"percent": 200}, "source_start": 5000}
    stopped = apply(doc, kind="slip_clip", id="c1", later=999999).document
    assert clips_of(stopped)["c1"]["source_start"] == 0
    for ways in ({}, {"samples": 1, "frames": 1}):
        with pytest.raises(Refused, match="by how much"):
            apply(doc, kind="slip_clip", id="c1", **ways)
