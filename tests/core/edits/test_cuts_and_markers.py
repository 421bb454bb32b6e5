"""Commands on cuts, markers and media, and what is found as it falls in a reel."""

import pytest

from bathyphon.core.edits import apply_edit, parse_command
from bathyphon.core.edits.patch import apply_patch
from bathyphon.core.errors import Refused
from bathyphon.core.measure.found import Cut, Stretch
from bathyphon.core.reel.found import beats_in_reel, counted, cuts_in_reel
from bathyphon.core.reel.parse import read_reel
from bathyphon.core.timing.clock import Clock, parse_rate
from reels import document


def after(doc, *commands):
    for command in commands:
        edit = apply_edit(doc, read_reel(doc), parse_command(command))
        assert apply_patch(edit.document, edit.inverse)[0] == doc
        doc = edit.document
    return doc


def found(*frames, by="finder"):
    return {"kind": "set_cuts", "by": by, "cuts": [{"frame": f} for f in frames]}


def cuts(doc):
    return doc["picture"]["cuts"]


def test_finding_again_keeps_what_was_set_by_hand_and_what_was_taken_away():
    doc = after(
        document(480_000),
        found(50, 100, 150),
        {"kind": "add_cut", "frame": 77},
        {"kind": "remove_cut", "frame": 100},
        {"kind": "name_shot", "frame": 150, "name": "Pool"},
        {"kind": "move_cut", "frame": 50, "to": 52},
        found(50, 100, 150, 200),
    )
    assert cuts(doc) == [52, 77, 150, 200]
    names = {s["frame"]: s.get("name") for s in doc["picture"]["shots"]}
    assert names[150] == "Pool"


def test_a_file_s_cuts_come_in_with_names_and_soft_ones_keep_their_length():
    command = found(by="file")
    command["cuts"] = [
        {"frame": 40, "kind": "dissolve", "length": 12},
        {"frame": 90, "name": "Sump"},
    ]
    doc = after(document(480_000), command)
    assert cuts(doc) == [40, 90]
    soft, named = doc["picture"]["shots"]
    assert (soft["kind"], soft["length"]) == ("dissolve", 12)
    assert named["name"] == "Sump"


@pytest.mark.parametrize(
    "command",
    [
        {"kind": "add_cut", "frame": 50},
        {"kind": "move_cut", "frame": 60, "to": 50},
        {"kind": "move_cut", "frame": 61, "to": 62},
        {"kind": "remove_cut", "frame": 61},
        {"kind": "set_marker", "id": "nobody", "label": "x"},
        {"kind": "add_markers", "markers": [{"id": "a", "at": 0}, {"id": "a", "at": 1}]},
        {"kind": "set_beats", "id": "m1", "factor": 3},
        {"kind": "end_before_beat", "clip": "c1", "beat": 10},
    ],
)
def test_what_cannot_be_is_refused(command):
    with pytest.raises(Refused):
        after(document(480_000), found(50, 60), command)


def test_markers_are_added_moved_labelled_and_removed():
    doc = after(
        document(480_000),
        {"kind": "add_markers", "markers": [{"id": "a", "at": 4800}, {"id": "b", "at": 9600}]},
        {"kind": "set_marker", "id": "a", "at": 1920, "label": "knock", "marker_kind": "sound"},
        {"kind": "remove_marker", "id": "b"},
    )
    assert doc["markers"] == [{"id": "a", "at": 1920, "label": "knock", "kind": "sound"}]


def test_replacing_a_file_keeps_every_edit():
    doc = document(480_000)
    doc["picture"] = {"clips": [{"media": "m1", "start": 0, "length": 480_000}], "cuts": []}
    other = after(doc, {"kind": "relink_medium", "id": "m1", "to": "m9", "path": "new.wav"})
    assert [m["id"] for m in other["media"]] == ["m9"]
    assert other["tracks"][0]["clips"][0] == {**doc["tracks"][0]["clips"][0], "media": "m9"}
    assert other["picture"]["clips"][0]["media"] == "m9"


def test_a_clip_ends_just_before_a_beat():
    doc = after(document(480_000), {"kind": "end_before_beat", "clip": "c1", "beat": 240_000})
    clip = doc["tracks"][0]["clips"][0]
    assert clip["start"] + clip["length"] == 240_000 - 480
    assert clip["fade_out"]["length"] == 240


def test_beats_are_counted_faster_slower_and_shifted():
    grid = (Stretch(100.0, 1000.0, 8),)
    assert list(counted(grid, 1, 0)) == [100 + 1000 * k for k in range(8)]
    assert list(counted(grid, 2, 0))[:3] == [100, 600, 1100]
    assert list(counted(grid, 0.5, 7)) == [107, 2107, 4107, 6107]


def test_beats_fall_where_their_clip_lies():
    doc = document(20_000)
    doc["tracks"][0]["clips"][0] |= {"start": 5000, "source_start": 1100, "length": 3000}
    beats = beats_in_reel(read_reel(doc), {"m1": (Stretch(100.0, 1000.0, 20),)})
    assert beats == {"c1": [5000, 6000, 7000]}


def test_cuts_of_two_files_fall_into_the_reel_s_frames():
    doc = document(480_000)
    doc["picture"] = {
        "clips": [
            {"media": "m1", "start": 0, "length": 96_000},
            {"media": "m1", "start": 96_000, "length": 96_000, "source_start": 48_000},
        ],
        "cuts": [],
    }
    fifty = Clock(parse_rate("50/1"), 48_000)
    both = cuts_in_reel(read_reel(doc), {"m1": (fifty, [Cut(60), Cut(90, 20, "dissolve")])})
    assert [(c.frame, c.length) for c in both] == [(30, 0), (45, 10), (50, 0), (55, 0), (70, 10)]
