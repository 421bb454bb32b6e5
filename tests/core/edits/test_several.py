"""Several parts at once: one value for all, one range of several tracks, copies of all."""

import copy
from itertools import accumulate

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathyphon.core.edits import apply_edit, apply_edits, offer_after, parse_command
from bathyphon.core.edits.commands.ranges import fitted_ramps
from bathyphon.core.errors import Refused
from bathyphon.core.reel.parse import read_reel
from edits import apply, assert_all_is_undone_and_redone
from reels import document, effect, treatment

FRAME = 1920


def clip(id, start, frames=50, **more):
    return {"id": id, "media": "m1", "start": start * FRAME, "length": frames * FRAME, **more}


def reel():
    """Two tracks with two clips each; three treatments, one of them without an Echo."""
    doc = document(48000, frame_rate="25/1", treatments=[])
    media = doc["tracks"][0]["clips"][0]["media"]
    ids = iter("abcdef")

    def treated(start, frames, *effects):
        part = treatment(start * FRAME, frames * FRAME, *effects)
        ramps = {"ramp_in": {"length": FRAME}, "ramp_out": {"length": FRAME}}
        return {**part, **ramps, "id": f"f{next(ids)}"}

    echo = effect("echo")
    parts = [
        [treated(10, 30, {**echo, "id": "x1"}), treated(60, 4, {**echo, "id": "x2"})],
        [treated(20, 40, effect("muffle"))],
    ]
    doc["tracks"] = [
        {
            "id": f"t{k + 1}",
            "name": name,
            "clips": [
                {**clip(f"c{k}{i}", 100 * i), "media": media, "fade_in": {"length": FRAME}}
                for i in range(2)
            ],
            "treatments": parts[k],
        }
        for k, name in enumerate(("Voice", "Music"))
    ]
    return doc


def parts(doc, key):
    return {part["id"]: part for track in doc["tracks"] for part in track.get(key, [])}


ALL = ["clip:c00", "clip:c01", "clip:c10", "treatment:fa", "treatment:fb", "treatment:fc"]


def for_all(doc, owners, **command):
    return apply(doc, kind="for_all", command=command, owners=owners)


def test_a_level_and_a_fade_are_set_for_all_clips_in_one_step():
    doc = reel()
    edit = for_all(doc, ALL, kind="set_clip", id="c00", gain_db=-7)
    assert [c.get("gain_db") for c in parts(edit.document, "clips").values()] == [-7, -7, -7, None]
    assert edit.title == "set the level of c00, and 2 more alike"
    assert parts(edit.document, "treatments") == parts(doc, "treatments")
    edit = for_all(doc, ALL, kind="set_fade", id="c00", edge="in", fade={"frames": 12})
    lengths = [c["fade_in"]["length"] // FRAME for c in parts(edit.document, "clips").values()]
    assert lengths == [12, 12, 12, 1]


def test_ramps_are_set_for_all_treatments_as_far_as_there_is_room():
    edit = for_all(reel(), ALL, kind="set_treatment", id="fa", ramp_in={"frames": 9})
    heads = {
        id: t["ramp_in"]["length"] // FRAME for id, t in parts(edit.document, "treatments").items()
    }
    assert heads == {"fa": 9, "fb": 4, "fc": 9}


def test_an_effect_is_changed_where_there_is_one_of_its_kind():
    edit = for_all(
        reel(), ALL, kind="set_effect", owner="treatment:fa", id="x1", params={"feedback": 55}
    )
    found = {
        id: t["effects"][0].get("params", {})
        for id, t in parts(edit.document, "treatments").items()
    }
    assert found["fa"]["feedback"] == found["fb"]["feedback"] == 55
    assert "feedback" not in found["fc"]


def test_of_two_effects_of_a_kind_the_second_stands_for_the_second():
    doc = reel()
    for id, start in (("fa", "x1"), ("fb", "x2")):
        chain = parts(doc, "treatments")[id]["effects"]
        chain.append({**copy.deepcopy(chain[0]), "id": f"{start}-again"})
    edit = for_all(doc, ALL, kind="set_effect", owner="treatment:fa", id="x1-again", bypass=True)
    for id in ("fa", "fb"):
        first, second = parts(edit.document, "treatments")[id]["effects"]
        assert (first.get("bypass", False), second["bypass"]) == (False, True)
    gone = for_all(doc, ALL, kind="remove_effect", owner="treatment:fa", id="x1-again")
    assert [len(t["effects"]) for t in parts(gone.document, "treatments").values()] == [1, 1, 1]


def test_an_effect_is_added_to_clips_and_treatments_alike():
    added = {**effect("tone"), "id": "n1"}
    edit = for_all(reel(), ALL, kind="add_effect", owner="treatment:fa", effect=added)
    assert all(t["effects"][-1] == added for t in parts(edit.document, "treatments").values())
    clips = parts(edit.document, "clips")
    assert [bool(c.get("treatment")) for c in clips.values()] == [True, True, True, False]
    # Then it can be changed for all of them, from a clip as well.
    edit = for_all(
        edit.document, ALL, kind="set_effect", owner="clip:c00", id=added["id"], bypass=True
    )
    assert (
        sum(
            t["effects"][-1].get("bypass", False)
            for t in parts(edit.document, "treatments").values()
        )
        == 3
    )


@pytest.mark.parametrize(
    ("command", "owners", "said"),
    [
        ({"kind": "set_treatment", "id": "fa", "start": {"frame": 3}}, ALL, "at one place"),
        ({"kind": "set_clip", "id": "c00", "start": 3}, ALL, "at one place"),
        ({"kind": "set_clip", "id": "c00", "gain_db": 3}, ["mix"], "clip:ID"),
        ({"kind": "set_clip", "id": "c00", "gain_db": 3}, ["clip:gone"], "removed"),
        ({"kind": "remove_clips", "ids": ["c00"]}, ALL, "cannot be read"),
    ],
)  # fmt: skip
def test_what_cannot_be_done_to_all_is_refused(command, owners, said):
    doc = reel()
    with pytest.raises(Refused, match=said):
        for_all(doc, owners, **command)


def test_a_range_of_several_tracks_is_treated_in_one_step():
    doc = reel()
    edit = apply(
        doc, kind="treat_range", on=[{"track": "t1", "id": "n1"}, {"track": "t2", "id": "n2"}],
        start={"sample": 70 * FRAME + 5}, end={"frame": 90}, name="Under",
        effects=[{**effect("muffle"), "id": "n1"}],
    )  # fmt: skip
    one, two = (parts(edit.document, "treatments")[id] for id in ("n1", "n2"))
    assert {**one, "id": 0} == {**two, "id": 0}
    assert (one["start"], one["length"]) == (70 * FRAME, 20 * FRAME)
    assert (one["ramp_in"]["length"], one["ramp_out"]["length"]) == (3 * FRAME, 6 * FRAME)
    assert edit.title == "treat 2 tracks"


@given(st.integers(1, 400), st.lists(st.integers(0, 500), max_size=2))
def test_ramps_always_fit(frames, wanted):
    head, foot = fitted_ramps(frames, wanted)
    assert head >= 0
    assert foot >= 0
    assert head + foot <= frames
    if not wanted:
        assert frames - head - foot >= frames // 6
    elif sum((wanted * 2)[:2]) <= frames:
        assert (head, foot) == (wanted[0], wanted[-1])


def test_a_range_within_one_frame_treats_that_frame():
    edit = apply(
        reel(), kind="treat_range", on=[{"track": "t1", "id": "n1"}],
        start={"sample": 100 * FRAME + 3}, end={"sample": 100 * FRAME + 40},
    )  # fmt: skip
    made = parts(edit.document, "treatments")["n1"]
    assert (made["start"], made["length"]) == (100 * FRAME, FRAME)


def test_copied_treatments_are_laid_as_they_were_even_when_they_are_gone():
    doc = reel()
    taken = [parts(doc, "treatments")[id] for id in ("fa", "fc")]
    without = doc
    for id in ("fa", "fc"):
        without = apply(without, kind="remove_treatment", id=id).document
    pasted = apply(
        without, kind="paste_treatments", at={"frame": 201},
        parts=[
            {"track": track, "id": f"p{k}", "treatment": part}
            for k, (track, part) in enumerate(zip(("t1", "t2"), taken, strict=True))
        ],
    )  # fmt: skip
    now = parts(pasted.document, "treatments")
    assert now["p0"] == {**taken[0], "id": "p0", "start": 201 * FRAME}
    assert now["p1"] == {**taken[1], "id": "p1", "start": 211 * FRAME}
    assert pasted.title == "paste 2 treatments"


@pytest.mark.parametrize(
    "part", [{"name": "half"}, {"id": "x", "start": "1", "length": 9},
             {"id": "x", "start": float("inf"), "length": 9}, {"id": "x", "start": 1, "length": 0},
             {"id": "x", "start": 1, "length": 9, "ramp_in": 3}],
)  # fmt: skip
def test_what_is_no_treatment_is_refused_in_a_sentence(part):
    with pytest.raises(Refused, match="no whole treatment"):
        apply(
            reel(), kind="paste_treatments", at={"frame": 0},
            parts=[{"track": "t1", "id": "p", "treatment": part}],
        )  # fmt: skip


def test_several_treatments_are_removed_at_once():
    doc = reel()
    edit = apply(doc, kind="remove_treatments", ids=["fa", "fc", "fa"])
    assert set(parts(edit.document, "treatments")) == {"fb"}
    assert_all_is_undone_and_redone(doc, [{"kind": "remove_treatments", "ids": ["fa", "fb", "fc"]}])


def moved(doc, *commands):
    read = [parse_command(command) for command in commands]
    edit = apply_edits(doc, read_reel(doc), read)
    return edit.document, offer_after(read, doc, edit)


def test_treatments_over_a_clip_that_moves_are_offered_to_come_along():
    doc = reel()
    after, offer = moved(doc, {"kind": "move_clips", "ids": ["c00", "c10"], "frames": 30})
    # The second treatment of the first track reaches past the clip, the second track's does not.
    assert [c["ids"] for c in offer.commands] == [["fa"]]
    assert "stayed where it was" in offer.text
    brought = apply(after, **offer.commands[0]).document
    assert parts(brought, "treatments")["fa"]["start"] == 40 * FRAME
    # Those that have been moved with it are not offered.
    _, offer = moved(
        doc, {"kind": "move_clips", "ids": ["c00"], "frames": 30},
        {"kind": "bring_along", "ids": ["fa"], "frames": 30},
    )  # fmt: skip
    assert offer is None


@pytest.mark.parametrize("by", [{"frames": 0}, {"to": {"sample": 0}}])
def test_nothing_is_offered_where_nothing_moved(by):
    assert moved(reel(), {"kind": "move_clips", "ids": ["c00"], **by})[1] is None


@pytest.mark.parametrize(("sample", "how"), [(777, "samples"), (7 * FRAME, "frames")])
def test_they_come_along_exactly_and_to_the_same_track(sample, how):
    doc = reel()
    command = {"kind": "move_clips", "ids": ["c00"], "to": {"sample": sample}, "track": "t2"}
    after, offer = moved(doc, command)
    (bring,) = offer.commands
    assert how in bring
    assert bring["track"] == "t2"
    brought = apply(after, **bring).document
    part = next(t for t in brought["tracks"][1]["treatments"] if t["id"] == "fa")
    assert part["start"] == 10 * FRAME + sample


TONE = {**effect("tone"), "id": "n1"}


def test_what_has_come_in_the_same_edit_takes_nothing_along():
    doc = reel()
    fresh = {**parts(doc, "clips")["c00"], "id": "new"}
    _, offer = moved(
        doc,
        {"kind": "add_clip", "track": "t1", "clip": fresh},
        {"kind": "move_clips", "ids": ["new", "c00"], "frames": 30},
    )
    assert [c["ids"] for c in offer.commands] == [["fa"]]


@given(
    st.lists(st.tuples(st.integers(0, 40), st.integers(1, 30)), min_size=1, max_size=6),
    st.lists(st.tuples(st.integers(0, 90), st.integers(1, 30)), max_size=6),
)
@settings(max_examples=60, deadline=None)
def test_those_that_lay_wholly_over_one_clip_are_offered_wherever_others_lie(clips, spans):
    doc = reel()
    media = doc["tracks"][0]["clips"][0]["media"]
    # One after another, with gaps, in any order.
    ends = list(accumulate(gap + n for gap, n in clips))
    clips = [(end - n, n) for end, (_, n) in zip(ends, clips, strict=True)][::-1]
    laid = [{**clip(f"k{i}", a, n), "media": media} for i, (a, n) in enumerate(clips)]
    treated = [
        {**treatment(a * FRAME, n * FRAME, effect("muffle")), "id": f"s{i}"}
        for i, (a, n) in enumerate(spans)
    ]
    doc["tracks"][0] |= {"clips": laid, "treatments": treated}
    ids = [f"k{i}" for i in range(len(clips))]
    _, offer = moved(doc, {"kind": "move_clips", "ids": ids, "frames": 7})
    wholly = [
        f"s{i}" for i, (a, n) in enumerate(spans)
        if any(c <= a and a + n <= c + m for c, m in clips)
    ]  # fmt: skip
    assert (offer.commands[0]["ids"] if offer else []) == wholly


OWNERS = st.lists(st.sampled_from([*ALL, "clip:c11"]), max_size=7)
COMMAND = st.sampled_from(
    [
        {"kind": "set_clip", "id": "c00", "gain_db": -3.5},
        {"kind": "set_clip", "id": "c11", "enabled": False},
        {"kind": "set_fade", "id": "c01", "edge": "out", "fade": {"frames": 400}},
        {"kind": "set_treatment", "id": "fb", "ramp_out": {"frames": 20, "shape": "smooth"}},
        {"kind": "set_chain", "owner": "treatment:fa", "strength": 40},
        {"kind": "set_chain", "owner": "clip:c00", "bypass": True},
        {"kind": "set_effect", "owner": "treatment:fb", "id": "x2", "params": {"feedback": 9}},
        {"kind": "add_effect", "owner": "clip:c10", "effect": TONE},
        {"kind": "remove_effect", "owner": "treatment:fb", "id": "x2"},
    ]
)


@given(COMMAND, OWNERS)
@settings(max_examples=60, deadline=None)
def test_all_of_it_is_one_step_back_and_one_again(command, owners):
    doc = reel()
    everything = {"kind": "for_all", "command": command, "owners": owners}
    assert_all_is_undone_and_redone(doc, [everything])
    # Those that are named alone change.
    edit = apply_edit(doc, read_reel(doc), parse_command(everything))
    named = {owner.partition(":")[2] for owner in owners}
    named.add(command.get("id") if "owner" not in command else command["owner"].partition(":")[2])
    for key in ("clips", "treatments"):
        before = parts(doc, key)
        for id, part in parts(edit.document, key).items():
            assert id in named or part == before[id]
