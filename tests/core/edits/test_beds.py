"""Beds: from cut to cut, crossing with constant power, and staying with the cuts."""

from __future__ import annotations

import numpy as np
import pytest

from bathyphon.core.errors import Refused
from bathyphon.core.timing.clock import Clock, parse_rate
from edits import apply, assert_all_is_undone_and_redone

MINUTE = {"samples": 60 * 48000, "rate": 48000}


def reel(rate="25/1", cuts=(50, 120, 200), treatments=()):
    clock = Clock(parse_rate(rate), 48000)
    spans = [
        {"id": f"f{a}", "start": clock.sample_of_frame(a),
         "length": clock.sample_of_frame(b) - clock.sample_of_frame(a),
         "ramp_in": {"length": head, "shape": "linear"},
         "ramp_out": {"length": foot, "shape": "linear"}, "effects": []}
        for a, b, head, foot in treatments
    ]  # fmt: skip
    voice = {"id": "t1", "name": "Voice", "clips": [], "treatments": spans}
    return clock, {
        "format": "bathyphon-reel", "version": 1, "frame_rate": rate, "sample_rate": 48000,
        "media": [], "picture": {"clips": [], "cuts": list(cuts)}, "tracks": [voice],
    }  # fmt: skip


def lay(doc, first, last, n, **more):
    return apply(
        doc, kind="lay_bed", media=f"m{n}", path=f"Bed {n}.sound", sound=MINUTE, clip=f"b{n}",
        start={"frame": first}, end={"frame": last}, new_track=f"n{n}", **more,
    ).document  # fmt: skip


def beds(doc):
    return {c["id"]: c for t in doc["tracks"] for c in t["clips"] if c.get("bed")}


def end(clip):
    return clip["start"] + clip["length"]


@pytest.mark.parametrize("rate", ["24/1", "25/1", "30000/1001"])
def test_a_bed_fades_as_the_treatments_at_its_cuts_ramp(rate):
    clock, doc = reel(rate, treatments=[(50, 120, 7000, 15000)])
    bed = beds(lay(doc, 50, 120, 1))["b1"]
    assert (bed["start"], end(bed)) == (clock.sample_of_frame(50), clock.sample_of_frame(120))
    assert bed["fade_in"]["length"] == 7000
    assert bed["fade_out"]["length"] == 15000
    # There is more of the sound on both sides.
    assert 0 < bed["source_start"] < 60 * 48000 - bed["length"]


def test_without_treatments_it_fades_as_one_would():
    _clock, doc = reel()
    bed = beds(lay(doc, 50, 120, 1))["b1"]
    assert bed["fade_in"]["length"] == 3 * 1920
    assert bed["fade_out"]["length"] == 6 * 1920


@pytest.mark.parametrize("order", [(1, 2, 3), (3, 2, 1), (1, 3, 2), (2, 1, 3)])
def test_beds_that_meet_cross_with_constant_power(order):
    clock, doc = reel(treatments=[(50, 120, 9600, 4800)])
    spans = {1: (0, 50), 2: (50, 120), 3: (120, 200)}
    for n in order:
        doc = lay(doc, *spans[n], n)
    found = beds(doc)
    assert len(doc["tracks"]) == 2
    for first, second, cut in (("b1", "b2", 50), ("b2", "b3", 120)):
        one, two = found[first], found[second]
        assert two["start"] == clock.sample_of_frame(cut)
        both = end(one) - two["start"]
        assert both > 0
        assert one["fade_out"]["length"] == two["fade_in"]["length"] == both
        assert one["fade_out"]["shape"] == two["fade_in"]["shape"] == "equal_power"


def test_powers_add_up_where_two_beds_cross():
    from bathyphon.core.engine.graph import build_graph
    from bathyphon.core.engine.render import render
    from bathyphon.core.reel.parse import read_reel

    _, doc = reel(treatments=[(50, 120, 24000, 4800)])
    doc = lay(lay(doc, 0, 50, 1), 50, 120, 2)

    class Noise:
        def digest(self, media):
            return media

        def length(self, media):
            return 60 * 48000

        def read(self, media, start, stop):
            seed = int(media[1:]) * 10**9
            x = [np.random.default_rng(seed + k).standard_normal((2, 4800))
                 for k in range(start // 4800, stop // 4800 + 1)]  # fmt: skip
            at = start % 4800
            return np.concatenate(x, axis=1)[:, at : at + stop - start].astype(np.float32) * 0.1

        def response(self, media, most):
            return self.read(media, 0, most)

    parsed = read_reel(doc)
    noise = Noise()
    whole = np.concatenate([part.mix for part in render(build_graph(parsed, noise), noise)], axis=1)
    cut = 50 * 1920
    levels = [
        10 * np.log10(np.mean(whole[:, a : a + 4800] ** 2))
        for a in range(cut - 24000, cut + 48000, 4800)
    ]
    assert max(levels) - min(levels) < 0.5


@pytest.mark.parametrize("seed", range(6))
def test_beds_stay_with_cuts_that_move(seed):
    chance = np.random.default_rng(seed)
    clock, doc = reel(treatments=[(50, 120, 9600, 4800)])
    doc = lay(lay(lay(doc, 0, 50, 1), 50, 120, 2), 120, 200, 3)
    before = beds(doc)
    cuts = [50, 120]
    for _ in range(4):
        k = int(chance.integers(0, 2))
        low, high = (20, cuts[1] - 12) if k == 0 else (cuts[0] + 12, 180)
        to = int(chance.integers(low, high))
        if to == cuts[k]:
            continue
        doc = apply(doc, kind="move_cut", frame=cuts[k], to=to).document
        cuts[k] = to
        found = beds(doc)
        for first, second, cut in (("b1", "b2", cuts[0]), ("b2", "b3", cuts[1])):
            at = clock.sample_of_frame(cut)
            assert found[second]["start"] == at
            assert end(found[first]) >= at
            overlap = end(found[first]) - at
            assert found[first]["fade_out"]["length"] == overlap
        for id, bed in found.items():
            # Each sample of it is heard at the moment at which it was.
            assert (
                bed["start"] - bed["source_start"]
                == before[id]["start"] - before[id]["source_start"]
            )
    assert end(found["b3"]) == clock.sample_of_frame(200)


def test_it_is_all_undone():
    _, doc = reel()
    one = {"kind": "lay_bed", "media": "m1", "path": "One.sound", "sound": MINUTE, "clip": "b1",
               "start": {"frame": 0}, "end": {"frame": 50}, "new_track": "n1"}  # fmt: skip
    two = {**one, "media": "m2", "clip": "b2", "start": {"frame": 50}, "end": {"frame": 120},
           "duck_under": "t1", "new_track": "n2"}  # fmt: skip
    assert_all_is_undone_and_redone(doc, [one, two, {"kind": "move_cut", "frame": 50, "to": 60}])


def test_it_ducks_under_speech_once():
    _, doc = reel()
    doc = lay(doc, 0, 50, 1, duck_under="t1", duck="d1")
    doc = lay(doc, 50, 120, 2, duck_under="t1", duck="d2")
    assert [e["id"] for e in doc["tracks"][1]["treatment"]["effects"]] == ["d1"]
    assert doc["tracks"][1]["treatment"]["effects"][0]["params"]["track"] == "t1"


def test_what_cannot_be_laid_says_why():
    _, doc = reel()
    with pytest.raises(Refused, match="end after it starts"):
        lay(doc, 50, 50, 1)
    with pytest.raises(Refused, match="shorter than the stretch"):
        lay(doc, 0, 5000, 1)
    with pytest.raises(Refused, match="under itself"):
        lay(lay(doc, 0, 50, 1), 50, 60, 2, duck_under="n1")


def test_a_stretch_that_is_taken_gets_a_track_of_its_own():
    _, doc = reel()
    doc = lay(lay(doc, 0, 120, 1), 50, 100, 2)
    assert [len(t["clips"]) for t in doc["tracks"]] == [0, 1, 1]


def test_a_bed_shorter_than_its_fades_keeps_both_in_proportion():
    _, doc = reel(treatments=[(50, 90, 9000, 0), (20, 52, 0, 9000)])
    bed = beds(lay(doc, 50, 52, 1))["b1"]
    assert bed["fade_in"]["length"] + bed["fade_out"]["length"] <= bed["length"]


@pytest.mark.parametrize("speed", [1.0, 0.5, 1.25])
@pytest.mark.parametrize("to", [40, 63])
def test_what_is_keyed_on_a_bed_keeps_its_moments_when_its_cut_moves(speed, to):
    clock, doc = reel()
    doc = lay(doc, 50, 120, 1)
    if speed != 1.0:
        doc = apply(doc, kind="set_speed", ids=["b1"], percent=100 * speed).document
    before = beds(doc)["b1"]
    keys = [{"at": at, "value": value, "ease": "linear"} for at, value in
            ((0, 0.0), (60_000, -6.0), (134_400, 0.0))]  # fmt: skip
    doc = apply(doc, kind="set_clip", id="b1", gain_db={"keyframes": keys}).document
    middle = before["start"] + 60_000
    was, heard_then = gain_at(beds(doc)["b1"], middle), source_at(beds(doc)["b1"], middle)
    doc = apply(doc, kind="move_cut", frame=50, to=to).document
    bed = beds(doc)["b1"]
    assert (bed["start"], end(bed)) == (clock.sample_of_frame(to), end(before))
    assert gain_at(bed, middle) == pytest.approx(was, abs=1e-6)
    assert source_at(bed, middle) == pytest.approx(heard_then, abs=1)


def gain_at(bed, moment):
    keys = bed["gain_db"]["keyframes"]
    return np.interp(moment - bed["start"], [k["at"] for k in keys], [k["value"] for k in keys])


def source_at(bed, moment):
    speed = bed.get("speed", {})
    played = moment - bed["start"] + speed.get("origin", 0)
    return bed["source_start"] + played * speed.get("percent", 100) / 100


@pytest.mark.parametrize("order", [(1, 2), (2, 1)])
def test_a_bed_that_crossed_into_one_that_is_gone_ends_at_its_cut(order):
    clock, doc = reel(treatments=[(50, 120, 9600, 4800)])
    for n in order:
        doc = lay(doc, *{1: (0, 50), 2: (50, 120)}[n], n)
    doc = apply(doc, kind="remove_beds", ids=["b2"]).document
    (bed,) = beds(doc).values()
    assert end(bed) == clock.sample_of_frame(50)


@pytest.mark.parametrize("ids", [["b1"], ["b2"], ["b1", "b2"], ["b2", "b3"]])
def test_removing_beds_is_undone(ids):
    doc = lay(lay(lay(reel()[1], 0, 50, 1), 50, 120, 2), 120, 200, 3)
    assert_all_is_undone_and_redone(doc, [{"kind": "remove_beds", "ids": ids}])
