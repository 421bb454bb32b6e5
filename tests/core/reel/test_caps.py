"""How much a reel holds: all of it is taken, one more is refused, and what there was stands."""

import copy

import pytest

from bathyphon.core.edits.apply import apply_edits
from bathyphon.core.edits.commands import parse_command
from bathyphon.core.errors import Refused
from bathyphon.core.reel import caps
from bathyphon.core.reel.parse import read_reel
from reels import document, effect

RATE = 48000


def with_tracks(doc, count):
    one = doc["tracks"][0]
    doc["tracks"] = [{**one, "id": f"t{i}", "clips": [], "treatments": []} for i in range(count)]


def with_clips(doc, count):
    one = doc["tracks"][0]["clips"][0]
    half = [{**one, "id": f"c{i}"} for i in range(count // 2)]
    rest = [{**one, "id": f"d{i}"} for i in range(count - len(half))]
    track = doc["tracks"][0]
    doc["tracks"] = [{**track, "clips": half}, {**track, "id": "other", "clips": rest}]


def with_treatments(doc, count):
    doc["tracks"][0]["treatments"] = [
        {"id": f"f{i}", "start": 0, "length": RATE, "effects": []} for i in range(count)
    ]


def with_markers(doc, count):
    doc["markers"] = [{"id": f"m{i}", "at": i, "name": ""} for i in range(count)]


def with_cuts(doc, count):
    doc["picture"] = {"cuts": list(range(count - 10)), "not_cuts": list(range(10))}


def with_effects(doc, count):
    chain = doc["tracks"][0]["clips"][0]["treatment"]
    chain["effects"] = [effect("gain") | {"id": f"e{i}"} for i in range(count)]


def with_kept(doc, count):
    chain = doc["tracks"][0]["clips"][0]["treatment"]
    chain["kept"] = [{"name": f"k{i}", "effects": []} for i in range(count)]


def with_keyframes(doc, count):
    doc["tracks"][0]["gain_db"] = {"keyframes": [{"at": i, "value": 0} for i in range(count)]}


def with_keyframes_of_an_effect(doc, count):
    keys = [{"at": i, "value": 0} for i in range(count)]
    one = effect("muffle", high_cut_hz={"keyframes": [{**k, "value": 500} for k in keys]})
    doc["tracks"][0]["clips"][0]["treatment"] = {"effects": [{**one, "id": "e"}]}


def with_media(doc, count):
    doc["media"] = doc["media"] + [
        {"id": f"more{i}", "path": "x.wav"} for i in range(count - len(doc["media"]))
    ]


@pytest.mark.parametrize(
    ("fill", "most", "said"),
    [
        (with_media, caps.MOST_MEDIA, "5,000 media at most; this would be 5,001"),
        (with_tracks, caps.MOST_TRACKS, "500 tracks at most"),
        (with_clips, caps.MOST_CLIPS, "20,000 clips at most"),
        (with_treatments, caps.MOST_TREATMENTS, "20,000 treatments at most"),
        (with_markers, caps.MOST_MARKERS, "20,000 markers at most"),
        (with_cuts, caps.MOST_CUTS, "50,000 cuts at most"),
        (with_effects, caps.MOST_EFFECTS, "64 effects at most; this would be 65"),
        (with_kept, caps.MOST_KEPT, "32 kept settings at most"),
        (with_keyframes, caps.MOST_KEYFRAMES, "20,000 keyframes at most"),
        (with_keyframes_of_an_effect, caps.MOST_KEYFRAMES, "20,000 keyframes at most"),
    ],
)
def test_as_much_as_it_holds_and_one_more(fill, most, said):
    doc = document(RATE)
    doc["tracks"][0]["clips"][0].setdefault("treatment", {"effects": []})
    full, over = copy.deepcopy(doc), copy.deepcopy(doc)
    fill(full, most)
    read_reel(full)
    fill(over, most + 1)
    with pytest.raises(Refused, match=said):
        read_reel(over)


def test_an_edit_that_would_be_too_much_is_refused_and_nothing_is_lost():
    doc = document(RATE)
    with_markers(doc, caps.MOST_MARKERS)
    before = copy.deepcopy(doc)
    reel = read_reel(doc)
    one_more = parse_command({"kind": "add_markers", "markers": [{"id": "more", "at": 5}]})
    with pytest.raises(Refused, match="20,000 markers at most"):
        apply_edits(doc, reel, [one_more])
    assert doc == before
    fewer = parse_command({"kind": "remove_marker", "id": "m7"})
    assert len(apply_edits(doc, reel, [fewer, one_more]).document["markers"]) == 20_000
