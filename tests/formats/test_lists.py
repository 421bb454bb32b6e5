"""Markers and cuts through files and back."""

import opentimelineio as otio
import pytest

from bathyphon.core.errors import Refused
from bathyphon.core.reel.parse import read_reel
from bathyphon.formats.lists import cuts_csv, markers_csv, markers_vtt, read_list
from reels import document


def reel(**more):
    return read_reel({**document(4_800_000), **more})


MARKED = [
    {"id": "a", "at": 96_000, "label": "goes under, at last", "kind": "action"},
    {"id": "b", "at": 9_600, "label": "“knock”", "kind": "sound"},
]
CUTS = {
    "clips": [],
    "cuts": [50, 110],
    "shots": [{"frame": 110, "name": "Sump", "kind": "dissolve", "length": 12}],
}


def test_markers_come_back_from_csv():
    made = reel(markers=MARKED, start_timecode="01:00:00:00")
    text = markers_csv(made)
    assert text.splitlines()[1] == "01:00:00:05,“knock”,sound"
    found = read_list("m.csv", text.encode(), made)["markers"]
    assert [(m["at"], m["label"], m["kind"]) for m in found] == [
        (9_600, "“knock”", "sound"),
        (96_000, "goes under, at last", "action"),
    ]


def test_markers_come_back_from_webvtt():
    made = reel(markers=MARKED)
    text = markers_vtt(made)
    assert text.startswith("WEBVTT\n\n00:00:00.200 --> 00:00:02.000\n“knock”\n")
    found = read_list("m.vtt", text.encode(), made)["markers"]
    assert [m["at"] for m in found] == [9_600, 96_000]


def test_cuts_come_back_from_csv():
    text = cuts_csv(reel(picture=CUTS))
    assert read_list("c.csv", text.encode(), reel())["cuts"] == [
        {"frame": 50, "kind": "hard", "length": 0, "name": ""},
        {"frame": 110, "kind": "dissolve", "length": 12, "name": "Sump"},
    ]


EDL = """TITLE: Sump
FCM: NON-DROP FRAME

001  AX       V     C        00:00:00:00 00:00:02:00 01:00:00:00 01:00:02:00
* FROM CLIP NAME: HILL
002  BX       V     C        00:00:10:00 00:00:14:10 01:00:02:00 01:00:06:10
003  BX       A     C        00:00:10:00 00:00:14:10 01:00:03:00 01:00:06:10
004  CX       V     D    024 00:00:00:00 00:00:04:00 01:00:06:10 01:00:10:10
* FROM CLIP NAME: POOL
"""


@pytest.mark.parametrize("start", ["00:00:00:00", "01:00:00:00"])
def test_an_edit_decision_list_gives_cuts_dissolves_and_names(start):
    # Event layout as in the CMX 3600 edit list (from memory).
    found = read_list("a.edl", EDL.encode(), reel(start_timecode=start))["cuts"]
    assert [(c["frame"], c["kind"], c["length"], c["name"]) for c in found] == [
        (50, "hard", 0, ""),
        (172, "dissolve", 24, "POOL"),
    ]


def test_an_opentimelineio_file_gives_cuts():
    """Written by the OpenTimelineIO library itself."""
    track = otio.schema.Track(kind=otio.schema.TrackKind.Video)
    for name, frames in (("Hill", 50), ("Crawl", 75), ("Sump", 25)):
        span = otio.opentime.TimeRange(
            otio.opentime.RationalTime(0, 25), otio.opentime.RationalTime(frames, 25)
        )
        track.append(otio.schema.Clip(name, source_range=span))
    half = otio.opentime.RationalTime(6, 25)
    track.insert(2, otio.schema.Transition(in_offset=half, out_offset=half))
    timeline = otio.schema.Timeline()
    timeline.tracks.append(track)
    text = otio.adapters.write_to_string(timeline, "otio_json")
    found = read_list("t.otio", text.encode(), reel())["cuts"]
    assert [(c["frame"], c["length"], c["name"]) for c in found] == [
        (50, 0, "Crawl"),
        (125, 12, "Sump"),
    ]


@pytest.mark.parametrize(
    ("name", "data", "sentence"),
    [
        ("a.txt", b"x", "must end in"),
        ("a.csv", b"\xff\xfe", "UTF-8"),
        ("a.csv", b"colour,weight\n1,2\n", "columns"),
        ("a.csv", b"timecode,label\n99:99,x\n", "not a timecode"),
        ("a.csv", b"frame,name\nsoon,x\n", "not a frame"),
        ("a.vtt", b"hello", "WEBVTT"),
        ("a.edl", b"TITLE: nothing\n", "no edit decision list"),
        ("a.otio", b"{}", "OpenTimelineIO"),
        ("a.otio", b"not json", "OpenTimelineIO"),
    ],
)
def test_what_is_no_list_is_refused_in_one_sentence(name, data, sentence):
    with pytest.raises(Refused, match=sentence):
        read_list(name, data, reel())
