"""Keyframes and poses: what edits do to them, exactly and reversibly."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathyphon.core.edits.commands.lanes import curve_of, lane_of, points_of
from bathyphon.core.errors import Refused
from bathyphon.core.reel.parse import read_reel
from bathyphon.core.timing.curves import Curve, Keyframe
from edits import apply, assert_all_is_undone_and_redone
from reels import document, effect, treatment

FRAME = 1920
RATE = 48000
CUT, PAN, LEVEL = "treatment:f1/e1/high_cut_hz", "track:t1/pan", "clip:c1/gain_db"
DEPTH = "treatment:f1/strength"
LANES = (CUT, PAN, LEVEL, DEPTH, "mix/gain_db", "treatment:f1/e2/bands.0.gain_db")


def reel(**more):
    span = treatment(10 * FRAME, 50 * FRAME, effect("muffle"))
    span["id"] = "f1"
    span["effects"][0]["id"] = "e1"
    span["effects"].append(
        {"id": "e2", "kind": "eq", "params": {"bands": [{"type": "peak", "gain_db": 3}]}}
    )
    return document(200 * FRAME, treatments=[span], **more)


def key(lane, frame, **more):
    return {"lane": lane, "moment": {"frame": frame}, **more}


def put(doc, *keys):
    return apply(doc, kind="put_keyframes", keys=list(keys)).document


def values(doc, lane, *frames):
    """A lane's values at frames of the reel."""
    found = lane_of(doc, lane)
    curve = curve_of(doc, found)
    return [float(curve.values(f * FRAME - found.origin, 1, RATE)[0]) for f in frames]


def places(doc, lane):
    found = lane_of(doc, lane)
    return [(p["at"] + found.origin) / FRAME for p in points_of(doc, found)]


@pytest.mark.parametrize("lane", LANES)
def test_a_lane_takes_keyframes_where_they_are_put(lane):
    low, high = (200.0, 2000.0) if lane == CUT else (3.0, 9.0)
    doc = put(reel(), key(lane, 12, value=low), key(lane, 20, value=high))
    assert values(doc, lane, 12, 20, 30) == pytest.approx([low, high, high])
    middle = np.sqrt(low * high) if lane == CUT else (low + high) / 2
    assert values(doc, lane, 16) == pytest.approx([middle])
    read_reel(doc)


def test_a_keyframe_without_a_value_changes_nothing_that_is_heard():
    doc = put(reel(), key(PAN, 0, value=-100), key(PAN, 10, value=100))
    more = put(doc, key(PAN, 4))
    assert values(more, PAN, *range(12)) == pytest.approx(values(doc, PAN, *range(12)))
    assert places(more, PAN) == [0, 4, 10]


def test_what_does_not_exist_or_cannot_move_is_refused():
    for lane in ("track:t1/mute", "treatment:f1/e1/nothing", "clip:c9/gain_db", "x", "mix/pan"):
        with pytest.raises(Refused):
            put(reel(), key(lane, 0, value=1))
    with pytest.raises(Refused, match="is not there"):
        apply(reel(), kind="move_keyframes", keys=[{"lane": PAN, "at": 5}], frames=1)


def test_keyframes_move_by_frames_and_by_a_share_of_the_range():
    doc = put(reel(), key(CUT, 12, value=100), key(CUT, 20, value=1000), key(CUT, 30, value=500))
    at = [p["at"] for p in points_of(doc, lane_of(doc, CUT))][:2]
    keys = [{"lane": CUT, "at": a} for a in at]
    moved = apply(doc, kind="move_keyframes", keys=keys, frames=3, share=0.1)
    assert places(moved.document, CUT) == [15, 23, 30]
    found = values(moved.document, CUT, 15, 23)
    assert found[1] / found[0] == pytest.approx(10)
    assert moved.title == "move 2 keyframes"


def test_moves_by_frame_do_not_drift_at_29_97():
    doc = document(3600 * RATE, frame_rate="30000/1001")
    clock = read_reel(doc).clock
    doc = put(doc, key(PAN, 0, value=5))
    for step in range(1, 900):
        at = points_of(doc, lane_of(doc, PAN))[0]["at"]
        keys = [{"lane": PAN, "at": at}]
        doc = apply(doc, kind="move_keyframes", keys=keys, frames=7).document
        assert points_of(doc, lane_of(doc, PAN))[0]["at"] == clock.sample_of_frame(7 * step)


def test_a_group_is_stretched_scaled_and_reversed():
    doc = put(reel(), key(PAN, 10, value=0), key(PAN, 14, value=40), key(PAN, 20, value=100))
    keys = [{"lane": PAN, "at": f * FRAME} for f in (10, 14, 20)]
    longer = apply(doc, kind="scale_keyframes", keys=keys, time=2.0).document
    assert places(longer, PAN) == [10, 18, 30]
    flatter = apply(doc, kind="scale_keyframes", keys=keys, value=0.5).document
    assert values(flatter, PAN, 10, 14, 20) == pytest.approx([0, 20, 50])
    back = apply(doc, kind="reverse_keyframes", keys=keys).document
    assert values(back, PAN, 10, 16, 20) == pytest.approx([100, 40, 0])
    mirrored = values(doc, PAN, *range(20, 9, -1))
    assert values(back, PAN, *range(10, 21)) == pytest.approx(mirrored)


def test_softer_and_sharper_by_steps():
    doc = put(reel(), key(PAN, 0, value=0, ease="hold"), key(PAN, 10, value=100))
    keys = [{"lane": PAN, "at": 0}]
    found = []
    for by in (1, 1, 1, -1, -1, -1):
        doc = apply(doc, kind="soften_keyframes", keys=keys, by=by).document
        found.append(points_of(doc, lane_of(doc, PAN))[0]["ease"])
    assert found == ["linear", "smooth", "smooth", "linear", "hold", "hold"]


@pytest.mark.parametrize("bend", [-1.0, -0.3, 0.0, 0.6])
def test_bend_and_softness_are_two_handles_of_one_segment(bend):
    """ENGINE rules 3: u^(4^b), then 3u²−2u³ for what is wholly soft."""
    u = np.arange(101) / 100
    for soft in (0.0, 0.5, 1.0):
        frames = (Keyframe(0, 0.0, "bend", bend, soft), Keyframe(100, 1.0))
        v = u ** (4.0**bend)
        expected = v + soft * (3 * v**2 - 2 * v**3 - v)
        assert Curve(frames).values(0, 101, RATE) == pytest.approx(expected)


def test_a_lane_that_loses_its_last_keyframe_keeps_its_value():
    doc = put(reel(), key(LEVEL, 3, value=-6))
    doc = apply(doc, kind="remove_keyframes", keys=[{"lane": LEVEL, "at": 3 * FRAME}]).document
    assert doc["tracks"][0]["clips"][0]["gain_db"] == -6
    doc = put(doc, key(LEVEL, 3, value=-3))
    assert (
        apply(doc, kind="set_lane", lane=LEVEL, value=2).document["tracks"][0]["clips"][0][
            "gain_db"
        ]
        == 2
    )


def test_a_recorded_turn_becomes_few_keyframes_within_tolerance():
    t = np.arange(0, 4 * RATE, 960)
    turned = np.round(60 * np.sin(2 * np.pi * t / (4 * RATE)), 1)
    keys = [{"at": int(a), "value": float(v)} for a, v in zip(t, turned, strict=True)]
    edit = apply(reel(), kind="record_keyframes", lane=PAN, turned=keys, tolerance=0.01)
    found = points_of(edit.document, lane_of(edit.document, PAN))
    assert len(found) < 30 < len(keys)
    curve = curve_of(edit.document, lane_of(edit.document, PAN))
    off = [abs(float(curve.values(k["at"], 1, RATE)[0]) - k["value"]) for k in keys]
    # A hundredth of the range of 200.
    assert max(off) <= 2.0 + 1e-9


def test_thinning_keeps_within_tolerance():
    keys = [key(PAN, f, value=float(f)) for f in range(0, 90)]
    keys[40] = key(PAN, 40, value=80.0)
    doc = put(reel(), *keys)
    all_of_it = [{"lane": PAN, "at": f * FRAME} for f in range(90)]
    thin = apply(doc, kind="thin_keyframes", keys=all_of_it, tolerance=0.01).document
    assert places(thin, PAN) == [0, 39, 40, 41, 89]


POSES = [
    {"id": "r", "name": "right", "values": {PAN: 100}},
    {"id": "l", "name": "left", "values": {PAN: -100}},
    {"id": "b", "name": "both", "values": {PAN: 0}},
]


def stamped(doc, frames=(20, 40, 60, 80, 100), **more):
    return apply(
        doc,
        **{
            "kind": "stamp_poses", "make": POSES, "run": ["r", "l", "r", "l", "b"], "over": 2,
            "moments": [{"frame": f} for f in frames], "stamp": "s", **more,
        },
    )  # fmt: skip


def test_a_run_of_poses_on_a_run_of_moments_is_one_step():
    edit = stamped(reel())
    doc = edit.document
    assert edit.title == "stamp 5 poses"
    assert values(doc, PAN, 10, 20, 30, 38, 40, 60, 80, 97, 100, 150) == pytest.approx(
        [0, 100, 100, 100, -100, 100, -100, -100, 0, 0]
    )
    assert values(doc, PAN, 39) == pytest.approx([0])
    later = stamped(reel(), when="after").document
    assert values(later, PAN, 20, 22, 40, 42) == pytest.approx([0, 100, 100, -100])


def test_stamped_keyframes_follow_their_pose_and_move_as_one_column():
    doc = stamped(reel()).document
    changed = apply(doc, kind="set_pose", id="r", values={PAN: 60}).document
    assert values(changed, PAN, 20, 30, 38, 40, 60, 78) == pytest.approx([60, 60, 60, -100, 60, 60])
    arrived = next(p["at"] for p in points_of(doc, lane_of(doc, PAN)) if p["at"] == 40 * FRAME)
    moved = apply(
        doc, kind="move_keyframes", keys=[{"lane": PAN, "at": arrived}], frames=5
    ).document
    assert values(moved, PAN, 43, 45) == pytest.approx([100, -100])
    free = apply(doc, kind="unlink_keyframes", keys=[{"lane": PAN, "at": arrived}]).document
    same = apply(free, kind="set_pose", id="l", values={PAN: -10}).document
    assert values(same, PAN, 40, 80) == pytest.approx([-100, -10])
    gone = apply(doc, kind="remove_pose", id="r").document
    assert values(gone, PAN, 20, 40) == pytest.approx([100, -100])
    assert [p["name"] for p in gone["poses"]] == ["left", "both"]


def test_a_pose_saves_the_present_values_of_several_lanes():
    doc = put(reel(), key(CUT, 20, value=300))
    pose = {"id": "p", "name": "under", "values": {CUT: None, DEPTH: None}}
    doc = apply(doc, kind="add_pose", pose=pose, moment={"frame": 20}).document
    assert doc["poses"][0]["values"] == {CUT: 300, DEPTH: 100}
    doc = apply(
        doc, kind="stamp_poses", run=["p"], moments=[{"frame": 30}], over=0, stamp="s"
    ).document
    column = [p for lane in (CUT, DEPTH) for p in points_of(doc, lane_of(doc, lane))]
    assert sum(p.get("stamp") == "s.0" for p in column) == 4
    assert sum(p.get("pose") == "p" for p in column) == 2


def test_a_treatment_is_copied_keeping_its_frames():
    doc = reel(frame_rate="30000/1001")
    clock = read_reel(doc).clock
    start, end = clock.sample_of_frame(10), clock.sample_of_frame(40)
    doc["tracks"][0]["treatments"][0] |= {
        "start": start, "length": end - start,
        "ramp_in": {"length": clock.sample_of_frame(13) - start},
    }  # fmt: skip
    copies = [{"id": "a", "start": {"frame": 71}}, {"id": "b", "clip": "c1"}]
    edit = apply(doc, kind="copy_treatment", id="f1", copies=copies)
    _, a, b = edit.document["tracks"][0]["treatments"]
    assert a["start"] == clock.sample_of_frame(71)
    assert a["start"] + a["length"] == clock.sample_of_frame(101)
    assert a["start"] + a["ramp_in"]["length"] == clock.sample_of_frame(74)
    assert (b["start"], b["length"]) == (0, doc["tracks"][0]["clips"][0]["length"])
    assert edit.title.endswith("to 2 places")


def test_a_treatment_reaches_to_the_next_cut_and_is_put_in_order():
    doc = reel()
    doc["picture"] = {"cuts": [5, 90, 120]}
    doc = apply(doc, kind="stretch_to_cut", id="f1").document
    doc = apply(doc, kind="stretch_to_cut", id="f1", edge="start").document
    span = doc["tracks"][0]["treatments"][0]
    assert (span["start"], span["start"] + span["length"]) == (5 * FRAME, 90 * FRAME)
    copies = [{"id": "a", "start": {"frame": 7}}]
    doc = apply(doc, kind="copy_treatment", id="f1", copies=copies).document
    doc = apply(doc, kind="order_treatment", id="a", index=0).document
    assert [t["id"] for t in doc["tracks"][0]["treatments"]] == ["a", "f1"]


FRAMES = st.integers(0, 120)
LANE = st.sampled_from(LANES)
KEY = st.builds(lambda lane, f: {"lane": lane, "at": f * FRAME}, LANE, st.integers(0, 40))
KEYS = st.lists(KEY, min_size=1, max_size=3)
EASE = st.sampled_from(["hold", "linear", "smooth", "bend"])
PUT = st.builds(
    lambda lane, f, v, ease: key(lane, f, value=v, ease=ease),
    LANE, FRAMES, st.floats(-1000, 30000) | st.none(), EASE,
)  # fmt: skip


def command(kind, **parts):
    return st.fixed_dictionaries({"kind": st.just(kind), **parts})


COMMANDS = st.one_of(
    command("put_keyframes", keys=st.lists(PUT, min_size=1, max_size=4)),
    command("move_keyframes", keys=KEYS, frames=st.integers(-9, 9), share=st.floats(-1, 1)),
    command("set_keyframes", keys=KEYS, ease=EASE, bend=st.floats(-1, 1)),
    command("set_keyframes", keys=KEYS, value=st.floats(-200, 200)),
    command("scale_keyframes", keys=KEYS, time=st.floats(0.1, 4), value=st.floats(-2, 2)),
    command("reverse_keyframes", keys=KEYS),
    command("soften_keyframes", keys=KEYS, by=st.sampled_from([-1, 1])),
    command("remove_keyframes", keys=KEYS),
    command("thin_keyframes", keys=KEYS, tolerance=st.floats(0, 1)),
    command("unlink_keyframes", keys=KEYS),
    command("set_lane", lane=LANE, value=st.floats(-50, 50)),
    command("stamp_poses", make=st.just(POSES), run=st.just(["r", "l"]), stamp=st.just("s"),
            over=st.integers(0, 5), when=st.sampled_from(["before", "after"]),
            moments=st.lists(FRAMES.map(lambda f: {"frame": f}), min_size=1, max_size=4)),
    command("stamp_poses", run=st.just(["r"]), stamp=st.just("t"), over=st.integers(0, 5),
            moments=st.lists(FRAMES.map(lambda f: {"frame": f}), min_size=1, max_size=4)),
    command("set_pose", id=st.sampled_from("rlb"), values=st.just({PAN: 12})),
    command("remove_pose", id=st.sampled_from("rlb")),
    command("stretch_to_cut", id=st.just("f1")),
    command("copy_treatment", id=st.just("f1"),
            copies=FRAMES.map(lambda f: [{"id": f"n{f}", "start": {"frame": f}}])),
    command("move_track", id=st.just("t1"), index=st.integers(0, 3)),
)  # fmt: skip


@settings(max_examples=60, deadline=None)
@given(st.lists(COMMANDS, min_size=3, max_size=14))
def test_random_edits_are_undone_and_redone_exactly(commands):
    doc = put(reel(), *(key(lane, f, value=500.0) for lane in LANES for f in range(12, 40, 3)))
    assert_all_is_undone_and_redone(doc, commands)


def typed(doc, text, frames=(20, 40, 60), lane=PAN, **more):
    moments = [{"frame": f} for f in frames]
    return apply(
        doc, kind="stamp_poses", text=text, lane=lane, moments=moments, stamp="s", **more
    ).document


def test_a_run_is_typed_as_names_of_poses_or_values_of_the_lane_in_hand():
    doc = typed(reel(), "Right, left ; 30,  right,", frames=(20, 40, 60, 80), over=2)
    assert [p["name"] for p in doc["poses"]] == ["Right", "left", "30"]
    assert [p["values"] for p in doc["poses"]] == [{PAN: 100}, {PAN: -100}, {PAN: 30}]
    assert values(doc, PAN, 20, 40, 60, 80) == pytest.approx([100, -100, 30, 100])
    # What was made by then goes by its name, however it is written.
    again = apply(doc, kind="set_pose", id=doc["poses"][1]["id"], values={PAN: -60}).document
    again = typed(again, "LEFT", frames=(100,))
    assert [p["name"] for p in again["poses"]] == ["Right", "left", "30"]
    assert values(again, PAN, 101) == pytest.approx([-60])


@pytest.mark.parametrize(
    ("lane", "text", "value"),
    [(CUT, "1.5 kHz", 1500), (DEPTH, "40 %", 40), ("track:t1/gain_db", "silent", -96)],
)
def test_values_of_a_typed_run_have_the_lanes_unit(lane, text, value):
    doc = typed(reel(), text, lane=lane)
    assert doc["poses"][0]["values"] == {lane: pytest.approx(value)}


def test_a_pose_without_a_name_is_in_nobodys_way():
    doc = reel(poses=[{"id": "p", "values": {PAN: 30}}])
    assert [p.get("name") for p in typed(doc, "left")["poses"]] == [None, "left"]
    edit = apply(doc, kind="remove_pose", id="p")
    assert edit.document["poses"] == []


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "type names or values"),
        (" , ; ", "type names or values"),
        ("right, sideways", "there is no pose “sideways”; else .* pan of "),
        ("right, 300", "there is no pose “300”; else .* between "),
    ],
)
def test_a_run_that_cannot_be_read_says_which_word(text, said):
    with pytest.raises(Refused, match=f"(?i){said}"):
        typed(reel(), text)
