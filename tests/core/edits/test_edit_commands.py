"""Edits: exact inverses, clear refusals, frames kept, conflicts told."""

from fractions import Fraction

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathyphon.core.edits.patch import disturbs
from bathyphon.core.errors import Refused
from bathyphon.core.timing.clock import Clock
from edits import apply, assert_all_is_undone_and_redone
from reels import document, effect, treatment

NTSC = Clock(Fraction(30000, 1001), 48000)


def base(**more):
    return document(480000, treatments=[treatment(96000, 96000, effect("muffle"))], **more)


COMMANDS = st.one_of(
    st.fixed_dictionaries(
        {
            "kind": st.just("add_treatment"),
            "track": st.just("t1"),
            "id": st.sampled_from(["f1", "f2", "f3"]),
            "start": st.builds(dict, frame=st.integers(0, 200)),
            "end": st.builds(dict, frame=st.integers(0, 250)),
            "ramp_in": st.builds(dict, frames=st.integers(0, 9)),
            "effects": st.just([{"id": "e0", "kind": "echo"}]),
        }
    ),
    st.fixed_dictionaries(
        {
            "kind": st.just("set_treatment"),
            "id": st.sampled_from(["f1", "f2"]),
            "start": st.builds(dict, sample=st.integers(0, 300000)),
        }
    ),
    st.fixed_dictionaries(
        {
            "kind": st.just("set_treatment"),
            "id": st.sampled_from(["f1", "f3"]),
            "end": st.builds(dict, frame=st.integers(0, 300)),
            "name": st.text("ab~/ é", max_size=5),
        }
    ),
    st.fixed_dictionaries(
        {
            "kind": st.just("set_effect"),
            "owner": st.sampled_from(["treatment:f1", "treatment:f2"]),
            "id": st.just("e0"),
            "params": st.dictionaries(
                st.sampled_from(["level_db", "mix"]), st.none() | st.floats(-10, 10), max_size=2
            ),
        }
    ),
    st.fixed_dictionaries(
        {
            "kind": st.just("add_effect"),
            "owner": st.sampled_from(["treatment:f1", "clip:c1", "track:t1", "mix"]),
            "effect": st.builds(dict, id=st.sampled_from(["e0", "e1", "e2"]), kind=st.just("gain")),
            "index": st.none() | st.integers(0, 3),
        }
    ),
    st.fixed_dictionaries(
        {
            "kind": st.just("move_effect"),
            "owner": st.sampled_from(["treatment:f1", "mix"]),
            "id": st.sampled_from(["e0", "e1"]),
            "index": st.integers(0, 4),
        }
    ),
    st.fixed_dictionaries(
        {
            "kind": st.just("set_chain"),
            "owner": st.sampled_from(["treatment:f1", "clip:c1", "mix"]),
            "strength": st.integers(0, 100),
            "ring_out": st.sampled_from(["auto", "none", 4800]),
        }
    ),
    st.fixed_dictionaries({"kind": st.just("add_cut"), "frame": st.integers(1, 50)}),
    st.fixed_dictionaries({"kind": st.just("remove_cut"), "frame": st.integers(1, 50)}),
    st.fixed_dictionaries(
        {
            "kind": st.just("set_track"),
            "id": st.just("t1"),
            "mute": st.booleans(),
            "gain_db": st.floats(-20, 10),
            "name": st.text(max_size=4),
        }
    ),
    st.fixed_dictionaries(
        {
            "kind": st.just("set_clip"),
            "id": st.just("c1"),
            "start": st.integers(0, 9999),
            "fade_out": st.builds(dict, length=st.integers(0, 9999)),
        }
    ),
    st.fixed_dictionaries(
        {"kind": st.just("remove_treatment"), "id": st.sampled_from(["f1", "f2", "f3"])}
    ),
    st.fixed_dictionaries({"kind": st.just("remove_clips"), "ids": st.just(["c1"])}),
    st.fixed_dictionaries({"kind": st.just("set_mix"), "gain_db": st.floats(-9, 9)}),
)


@settings(max_examples=150, deadline=None)
@given(commands=st.lists(COMMANDS, max_size=25))
def test_undoing_all_gives_the_identical_document_and_redoing_all_the_identical_end(commands):
    assert_all_is_undone_and_redone(base(), commands)


def test_a_moved_treatment_keeps_its_frames_at_30000_1001():
    start, end = NTSC.sample_of_frame(10), NTSC.sample_of_frame(40)
    span = treatment(
        start,
        end - start,
        effect("muffle"),
        ramp_in={"length": NTSC.sample_of_frame(13) - start},
        ramp_out={"length": end - NTSC.sample_of_frame(34)},
    )
    doc = document(480000, frame_rate="30000/1001", treatments=[span])
    for frame in (11, 12, 13, 14, 15, 97):
        moved = apply(doc, kind="set_treatment", id="f1", start={"frame": frame}).document
        new = moved["tracks"][0]["treatments"][0]
        assert new["start"] == NTSC.sample_of_frame(frame)
        assert new["start"] + new["length"] == NTSC.sample_of_frame(frame + 30)
        assert new["start"] + new["ramp_in"]["length"] == NTSC.sample_of_frame(frame + 3)
        last = new["start"] + new["length"]
        assert last - new["ramp_out"]["length"] == NTSC.sample_of_frame(frame + 24)


def test_ramps_are_shortened_where_a_treatment_grows_too_short_for_them():
    doc = base()
    doc["tracks"][0]["treatments"][0] |= {"ramp_in": {"length": 9600}, "ramp_out": {"length": 9600}}
    new = apply(doc, kind="set_treatment", id="f1", end={"sample": 96000 + 9600})
    span = new.document["tracks"][0]["treatments"][0]
    assert span["ramp_in"]["length"] + span["ramp_out"]["length"] <= 9600


def test_a_parameter_given_as_null_returns_to_its_default():
    doc = apply(
        base(), kind="set_effect", owner="treatment:f1", id="e0", params={"level_db": -3}
    ).document
    back = apply(doc, kind="set_effect", owner="treatment:f1", id="e0", params={"level_db": None})
    assert back.document == base()


@pytest.mark.parametrize(
    ("command", "message"),
    [
        ({"kind": "explode"}, "cannot be read"),
        ({"kind": "remove_clips", "ids": ["c9"]}, "this clip is no longer there"),
        ({"kind": "set_track", "id": "t1", "colour": "red"}, "cannot be read"),
        ({"kind": "set_mix", "gain_db": float("inf")}, "finite"),
        ({"kind": "add_cut", "frame": -3}, "cannot be read"),
        ({"kind": "add_effect", "owner": "sea", "effect": {"id": "x", "kind": "gain"}}, "is not"),
        (
            {
                "kind": "add_treatment",
                "track": "t1",
                "id": "n",
                "start": {"frame": 9},
                "end": {"frame": 9},
            },
            "end after it starts",
        ),
    ],
)
def test_a_bad_command_is_refused_and_changes_nothing(command, message):
    doc = base()
    with pytest.raises(Refused, match=message):
        apply(doc, **command)
    assert doc == base()


def test_touched_places_tell_which_edits_disturb_each_other():
    doc = base()
    cut = apply(doc, kind="add_cut", frame=5).touches
    level = apply(doc, kind="set_track", id="t1", gain_db=-3.0).touches
    pan = apply(doc, kind="set_track", id="t1", pan=10.0).touches
    gone = apply(doc, kind="remove_track", id="t1").touches
    assert not disturbs(level, pan)
    assert not disturbs(level, cut)
    assert disturbs(level, level)
    assert disturbs(gone, level)


def test_titles_say_what_was_done():
    doc = base()
    assert apply(doc, kind="set_treatment", id="f1", start={"frame": 3}).title == "move f1"
    edit = apply(doc, kind="set_effect", owner="treatment:f1", id="e0", params={"level_db": -3})
    assert edit.title == "set level of Muffle"
