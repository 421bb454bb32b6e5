"""Copy to …: what one part has, on many others in one step."""

from __future__ import annotations

import copy

import numpy as np
import pytest

from bathyphon.core.errors import Refused
from bathyphon.core.reel.parse import read_reel
from bathyphon.core.timing.clock import Clock, parse_rate
from edits import apply, assert_all_is_undone_and_redone

RATES = ["24/1", "25/1", "30000/1001"]
CUTS = (50, 120, 200, 260)


def reel(rate="25/1"):
    """Five shots, of which two are called Under, and a clip under each, on two tracks."""
    clock = Clock(parse_rate(rate), 48000)
    at = clock.sample_of_frame
    bounds = [0, *CUTS, 330]
    clips = [
        {"id": f"c{k}", "media": "m", "name": f"Clip {k}", "start": at(a), "length": at(b) - at(a)}
        for k, (a, b) in enumerate(zip(bounds, bounds[1:], strict=False))
    ]
    muffle = {"id": "e1", "kind": "muffle", "params": {"high_cut_hz": 500}}
    clips[1] |= {
        "fade_in": {"length": at(53) - at(50), "shape": "smooth"},
        "fade_out": {"length": at(120) - at(114), "shape": "linear"},
        "gain_db": -4.5, "treatment": {"effects": [muffle], "strength": 80, "ring_out": "none"},
    }  # fmt: skip
    span = {
        "id": "f1", "name": "Under", "start": at(50), "length": at(120) - at(50),
        "ramp_in": {"length": at(53) - at(50), "shape": "smooth"},
        "ramp_out": {"length": at(120) - at(114), "shape": "linear"},
        "effects": [muffle], "strength": 60,
    }  # fmt: skip
    other = [{**clip, "id": f"d{k}"} for k, clip in enumerate(copy.deepcopy(clips[2:]))]
    markers = [
        {"id": "k1", "at": at(20), "label": "drop", "kind": "sound"},
        {"id": "k2", "at": at(130), "label": "drop", "kind": "note"},
        {"id": "k3", "at": at(270), "label": "", "kind": "sound"},
    ]
    return clock, {
        "format": "bathyphon-reel", "version": 1, "frame_rate": rate, "sample_rate": 48000,
        "media": [{"id": "m", "path": "m.wav"}], "markers": markers,
        "picture": {"clips": [], "cuts": list(CUTS), "shots": [
            {"frame": 50, "name": "Under"}, {"frame": 200, "name": "Under"},
            {"frame": 120, "name": "Above"}]},
        "tracks": [
            {"id": "t1", "name": "Voice", "clips": clips, "treatments": [span]},
            {"id": "t2", "name": "Other", "clips": other, "treatments": []},
        ],
    }  # fmt: skip


def copy_to(document, source, **more):
    more.setdefault("id", "n")
    made = apply(document, kind="copy_to", source=source, **more).document
    read_reel(made)
    return made


def clips(document):
    return {c["id"]: c for t in document["tracks"] for c in t["clips"]}


def changed(before, after):
    was, now = clips(before), clips(after)
    return {id for id in was if was[id] != now[id]}


TO = [
    ({"clips": ["c0", "d1", "c1"]}, {"c0", "d1"}),
    ({"track": "t1"}, {"c0", "c2", "c3", "c4"}),
    ({"track": "t2"}, {"d0", "d1", "d2"}),
    ({"shots": "Under"}, {"c3"}),
    ({"shots": "Above"}, {"c2"}),
    ({"marked": {"label": "drop"}}, {"c0", "c2"}),
    ({"marked": {"mark": "sound"}}, {"c0", "c4"}),
    ({"markers": {"mark": "note"}}, {"c2"}),
    ({"markers": {"label": "drop", "mark": "sound"}}, {"c0"}),
]


@pytest.mark.parametrize(("to", "which"), TO)
@pytest.mark.parametrize(
    "what", [["treatment"], ["fades"], ["level"], ["treatment", "fades", "level"]]
)
def test_of_a_clip_just_what_is_asked_goes_to_just_these(to, which, what):
    _, before = reel()
    after = copy_to(before, "clip:c1", what=what, to=to)
    assert changed(before, after) == which
    was, now, own = clips(before), clips(after), clips(before)["c1"]
    for id in which:
        kept = {"treatment", "fade_in", "fade_out", "gain_db"}
        if "treatment" in what:
            assert now[id]["treatment"] == own["treatment"]
            kept -= {"treatment"}
        if "fades" in what:
            kept -= {"fade_in", "fade_out"}
        if "level" in what:
            assert now[id]["gain_db"] == -4.5
            kept -= {"gain_db"}
        assert {k: was[id].get(k) for k in kept} == {k: now[id].get(k) for k in kept}


@pytest.mark.parametrize("rate", RATES)
def test_fades_and_ramps_keep_their_frames(rate):
    clock, before = reel(rate)
    at = clock.sample_of_frame
    after = copy_to(before, "clip:c1", what=["fades"], to={"track": "t1"})
    for k, (a, b) in enumerate(zip([0, *CUTS], [*CUTS, 330], strict=True)):
        clip = clips(after)[f"c{k}"]
        assert clip["fade_in"] == {"length": at(a + 3) - at(a), "shape": "smooth"}
        assert clip["fade_out"]["length"] == at(b) - at(b - 6)
    laid = copy_to(before, "treatment:f1", to={"shots": "Under"})["tracks"][0]["treatments"]
    (new,) = laid[1:]
    assert (new["start"], new["length"]) == (at(200), at(260) - at(200))
    assert new["ramp_in"]["length"] == at(203) - at(200)
    assert new["ramp_out"]["length"] == at(260) - at(254)
    assert (new["strength"], new["effects"]) == (60, laid[0]["effects"])


@pytest.mark.parametrize(
    ("to", "places"),
    [
        ({"clips": ["c3", "c1"]}, [(200, 260)]),
        ({"track": "t1"}, [(0, 50), (120, 200), (200, 260), (260, 330)]),
        ({"shots": "Under"}, [(200, 260)]),
        ({"marked": {"label": "drop"}}, [(0, 50), (120, 200)]),
        ({"markers": {"mark": "sound"}}, [(20, 90), (270, 340)]),
        ({"markers": {"label": "drop"}}, [(20, 90), (130, 200)]),
    ],
)
def test_a_treatment_goes_over_clips_and_shots_and_begins_at_markers(to, places):
    clock, before = reel()
    after = copy_to(before, "treatment:f1", to=to)
    spans = [(s["start"], s["start"] + s["length"]) for s in after["tracks"][0]["treatments"]]
    expected = [(50, 120), *places]
    assert spans == [(clock.sample_of_frame(a), clock.sample_of_frame(b)) for a, b in expected]
    assert len({s["id"] for s in after["tracks"][0]["treatments"]}) == len(spans)


def test_a_clip_lies_under_the_shots_that_hold_half_of_it():
    clock, before = reel()
    at = clock.sample_of_frame
    # Its head hangs over into the shot before; then it begins too early for it.
    for start, there in ((170, True), (135, False)):
        before["tracks"][0]["clips"][3] |= {"start": at(start), "length": at(260) - at(start)}
        before["tracks"][0]["clips"][2] |= {"length": at(start) - at(120)}
        after = copy_to(before, "clip:c0", what=["level"], to={"shots": "Under"})
        moved = {id for id, clip in clips(after).items() if clip.get("gain_db") == 0.0}
        assert ("c3" in moved) is there


@pytest.mark.parametrize("seed", range(8))
def test_it_is_one_step_back_whatever_is_copied(seed):
    chance = np.random.default_rng(seed)
    _, document = reel(RATES[seed % 3])
    to = TO[int(chance.integers(len(TO)))][0]
    source = ["clip:c1", "treatment:f1"][seed % 2]
    what = ["treatment", "fades", "level"][: 1 + seed % 3]
    command = {"kind": "copy_to", "source": source, "what": what, "to": to, "id": "n"}
    assert_all_is_undone_and_redone(document, [command])


def test_a_thousand_clips_get_it_at_once():
    _, document = reel()
    made = [
        {"id": f"x{k}", "media": "m", "start": 700_000 + 4800 * k, "length": 4800}
        for k in range(1000)
    ]
    document["tracks"][1]["clips"] += made
    after = copy_to(document, "clip:c1", what=["treatment", "fades"], to={"track": "t2"})
    assert len(changed(document, after)) == 1003
    for clip in after["tracks"][1]["clips"]:
        assert clip["fade_in"]["length"] + clip["fade_out"]["length"] <= clip["length"]


@pytest.mark.parametrize(
    ("source", "more", "says"),
    [
        ("clip:c1", {"to": {}}, "one kind of place"),
        ("clip:c1", {"to": {"track": "t1", "shots": "Under"}}, "one kind of place"),
        ("clip:c1", {"to": {"clips": ["nothing"]}}, "no longer there"),
        ("clip:c1", {"to": {"clips": ["c1"]}}, "no other clip"),
        ("clip:c1", {"to": {"shots": "Nowhere"}}, "no other clip"),
        ("treatment:f1", {"to": {"shots": "Nowhere"}}, "no other place"),
        ("clip:c0", {"to": {"track": "t1"}}, "no effects"),
        ("mix", {"to": {"track": "t1"}}, "is not clip:ID"),
        ("clip:c1", {"to": {"track": "t1"}, "what": []}, "empty"),
        ("clip:c1", {"to": {"markers": {"mark": "green"}}}, "must be 'note'"),
    ],
)
def test_what_cannot_be_copied_says_why(source, more, says):
    _, document = reel()
    with pytest.raises(Refused, match=says):
        copy_to(document, source, **more)


def test_the_history_says_what_went_where():
    _, document = reel()
    for source, more, says in (
        ("clip:c1", {"to": {"track": "t1"}}, "copy treatment of Clip 1 to all clips of a track"),
        ("clip:c1", {"to": {"clips": ["c0"]}, "what": ["level", "fades", "treatment"]},
         "copy treatment, fades and level of Clip 1 to a clip"),
        ("treatment:f1", {"to": {"markers": {"label": "drop"}}}, "copy Under to markers “drop”"),
        ("treatment:f1", {"to": {"marked": {"mark": "sound"}}},
         "copy Under to shots with a marker “sound”"),
    ):  # fmt: skip
        assert apply(document, kind="copy_to", source=source, id="n", **more).title == says
