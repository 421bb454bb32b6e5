"""Recipes of one's own: taken from a selection, asked for chosen values, carried out elsewhere."""

from __future__ import annotations

import copy
import json

import numpy as np
import pytest
from scenes import RATE, RATES, Bench, band, level, noise

import drawn
from bathyphon.core.edits.here import Place
from bathyphon.core.edits.prints import touched
from bathyphon.core.effects import EFFECTS
from bathyphon.core.errors import Refused
from bathyphon.core.presets.model import Preset, plain, read_presets
from bathyphon.core.recipes.own.recipe import own_recipe
from bathyphon.core.recipes.own.taking import Selected, recipe_of
from bathyphon.core.recipes.own.values import answered, values_of
from bathyphon.core.reel.parse import read_reel

MUFFLE = {"id": "m", "kind": "muffle", "params": {"high_cut_hz": 500.0}}


def keyed(bench, name, start, end, *effects, **ramps):
    bench.edit(
        kind="add_treatment", track="t-voice", id=name, name=name.capitalize(),
        start={"sample": start}, end={"sample": end}, effects=list(effects), **ramps,
    )  # fmt: skip


def taken(bench, selected, name="Mine"):
    reel = read_reel(bench.document)
    preset = recipe_of(bench.document, reel, selected, name, bench.media.computed.get)
    # What is kept is what a file holds.
    return read_presets(json.loads(json.dumps(plain(preset))))[0]


def asking(preset, **labels):
    """The same, asking for the values of these paths."""
    questions = [{"label": label, "asks": [path]} for path, label in labels.items()]
    return preset.model_copy(update={"body": {**preset.body, "questions": questions}})


def spans(bench, track="t-voice"):
    return next(t for t in bench.document["tracks"] if t["id"] == track)["treatments"]


@pytest.mark.parametrize("rate", RATES)
def test_a_treatment_becomes_a_recipe_and_is_made_again_on_another_stretch(rate):
    bench = Bench(rate, voice=noise(20.0, 1))
    frame = bench.clock.sample_of_frame(1)
    keyed(
        bench, "sump", 2 * RATE, 4 * RATE, MUFFLE,
        ramp_in={"length": 3 * frame, "shape": "equal_power"}, ramp_out={"length": 5 * frame},
    )  # fmt: skip
    preset = taken(bench, Selected(treatments=("sump",)))
    recipe = own_recipe(preset, "own.1")
    # What was set by hand is asked for; what nobody touched is not.
    assert [(q.label, q.default) for q in recipe.table.questions] == [("High cut", 500.0)]
    before = copy.deepcopy(bench.document)
    (asked,) = recipe.table.questions
    bench.cook(recipe, Place(start=6 * RATE, end=16 * RATE, track="t-voice"), **{asked.id: 2000.0})
    made = spans(bench)[-1]
    assert (made["start"], made["length"]) == (6 * RATE, 10 * RATE)
    assert made["effects"][0]["params"]["high_cut_hz"] == 2000.0
    assert made["ramp_in"]["shape"] == "equal_power"
    for ramp, frames in (("ramp_in", 3), ("ramp_out", 5)):
        assert made[ramp]["length"] == pytest.approx(frames * frame, abs=2)
    # It is heard: dull above the cut that was asked for, only there.
    y = bench.heard()
    inside, outside = y[:, 7 * RATE : 15 * RATE], y[:, 17 * RATE : 19 * RATE]
    assert band(outside, 6000, 9000) - band(inside, 6000, 9000) > 15
    assert abs(band(outside, 300, 900) - band(inside, 300, 900)) < 1.5
    assert not touched(bench.document, bench.document["made"][-1])
    bench.take_back()
    assert bench.document == {**before, "made": []} or bench.document == before


def test_of_a_range_treatments_beds_and_hits_keep_their_shares():
    bench = Bench(voice=noise(20.0, 1), music=noise(20.0, 2))
    keyed(bench, "sump", 2 * RATE, 3 * RATE, MUFFLE)
    keyed(bench, "beyond", 8 * RATE, 11 * RATE, MUFFLE)
    bench.edit(
        kind="add_treatment", track="t-music", id="low", name="Low", start={"sample": 3 * RATE},
        end={"sample": 6 * RATE}, effects=[{"id": "g", "kind": "gain",
                                            "params": {"level_db": -9.0}}],
    )  # fmt: skip
    hit, path, knock = bench.media.made("knock", {}, 1.0, "Knock", 7)
    bench.edit(kind="add_medium", medium={"id": hit, "path": path})
    bench.edit(
        kind="lay_sound", media=hit, clip="k", gain_db=-4.0, new_track="t-hit",
        sound={"samples": knock, "rate": RATE}, at={"sample": 5 * RATE},
    )  # fmt: skip
    wind, path, samples = bench.media.made("wind", {"strength": 70.0}, 4.0, "Wind", 3)
    bench.edit(
        kind="lay_bed", media=wind, path=path, clip="w", gain_db=-8.0, new_track="t-bed",
        sound={"samples": samples, "rate": RATE}, start={"sample": 4 * RATE},
        end={"sample": 8 * RATE},
    )  # fmt: skip
    # The same knock again, later.
    bench.edit(
        kind="lay_sound", media=hit, clip="k2", new_track="t-hit2",
        sound={"samples": knock, "rate": RATE}, at={"sample": 7 * RATE},
    )  # fmt: skip
    tracks = [t["id"] for t in bench.document["tracks"]]
    preset = taken(
        bench, Selected(tracks=tuple(tracks), start=2 * RATE, end=10 * RATE), "Hit and dip"
    )
    kinds = [part["part"] for part in preset.body["parts"]]
    # What reaches beyond the range does not come along.
    assert (kinds.count("hit"), kinds.count("bed")) == (2, 1)
    assert all(part.get("name") != "Beyond" for part in preset.body["parts"])
    first = next(part for part in preset.body["parts"] if part["part"] == "hit")
    assert first["start"] == pytest.approx(3 / 8)
    fresh = Bench(voice=noise(20.0, 1), music=noise(20.0, 2))
    fresh.cook(own_recipe(preset, "own.1"), Place(start=4 * RATE, end=20 * RATE, track="t-voice"))
    assert [s["start"] for s in spans(fresh) if s["name"] == "Sump"] == [4 * RATE]
    (low,) = spans(fresh, "t-music")
    assert (low["start"], low["length"]) == (6 * RATE, 6 * RATE)
    laid = [clip for track in fresh.document["tracks"][2:] for clip in track["clips"]]
    found = sorted(
        (c["start"], c.get("gain_db", 0.0), fresh.media.computed[c["media"]].seed) for c in laid
    )
    assert found == [(8 * RATE, -8.0, 3), (10 * RATE, -4.0, 7), (14 * RATE, 0.0, 7)]
    (bed,) = (c for c in laid if c.get("bed"))
    # A bed lasts as long as its share of the new stretch.
    assert bed["length"] == 8 * RATE
    assert fresh.media.computed[bed["media"]].settings["strength"] == 70.0
    first, again = (c["media"] for c in laid if not c.get("bed"))
    assert first == again
    assert fresh.media.computed[first] == bench.media.computed[hit]


def test_a_clip_gives_its_effects_fades_and_level_and_takes_them_back():
    bench = Bench(voice=noise(20.0, 1), music=noise(20.0, 2))
    bench.edit(kind="add_effect", owner="clip:c-voice", effect=MUFFLE)
    bench.edit(kind="set_chain", owner="clip:c-voice", strength=60.0)
    bench.edit(kind="set_clip", id="c-voice", gain_db=-7.0,
               fade_out={"length": RATE, "shape": "equal_power"})  # fmt: skip
    recipe = own_recipe(taken(bench, Selected(clip="c-voice")), "own.1")
    bench.edit(kind="add_effect", owner="clip:c-music",
               effect={"id": "own", "kind": "gain", "params": {"level_db": 3.0}})  # fmt: skip
    before = copy.deepcopy(bench.document)
    bench.cook(recipe, Place(clip="c-music"))
    clip = bench.document["tracks"][1]["clips"][0]
    assert clip["gain_db"] == -7.0
    assert clip["fade_out"] == {"length": RATE, "shape": "equal_power"}
    assert [e["kind"] for e in clip["treatment"]["effects"]] == ["gain", "muffle"]
    assert clip["treatment"]["strength"] == 60.0
    assert not touched(bench.document, bench.document["made"][-1])
    y = bench.heard()
    bench.take_back()
    assert np.array_equal(bench.heard(), bench.heard(before))
    assert level(y, 5, 15) < level(bench.heard(), 5, 15) - 2


def test_values_that_move_stay_as_they_are_and_are_not_asked_for():
    bench = Bench()
    moving = {"keyframes": [{"at": 0, "value": 300.0}, {"at": RATE, "value": 3000.0}]}
    keyed(bench, "sump", 0, 2 * RATE, {**MUFFLE, "params": {"high_cut_hz": moving}})
    preset = taken(bench, Selected(treatments=("sump",)))
    assert not any(v.path.endswith("high_cut_hz") for v in values_of(preset.body))
    bench.cook(own_recipe(preset, "own.1"), Place(start=4 * RATE, end=14 * RATE, track="t-voice"))
    keys = spans(bench)[-1]["effects"][0]["params"]["high_cut_hz"]["keyframes"]
    assert [(k["at"], k["value"]) for k in keys] == [(0, 300.0), (5 * RATE, 3000.0)]


@pytest.mark.parametrize("seed", [1, 2, pytest.param(3, marks=pytest.mark.long)])
def test_whatever_is_drawn_comes_again_and_every_value_can_be_asked_for(seed):
    """Any chain, kept and used over its own stretch, is what it was; each answer lands there."""
    rng = np.random.default_rng(seed)
    kinds = [k for k in EFFECTS if EFFECTS[k].reference is None]
    for _ in range(12):
        bench = Bench()
        chosen = rng.choice(kinds, size=int(rng.integers(1, 5)), replace=False)
        effects = [drawn.effect(rng, RATE, k, f"e{i}", []) for i, k in enumerate(chosen)]
        keyed(bench, "any", RATE, 5 * RATE, *effects)
        preset = taken(bench, Selected(treatments=("any",)))
        values = values_of(preset.body)
        assert len({value.path for value in values}) == len(values)
        where = Place(start=RATE, end=5 * RATE, track="t-voice")
        bench.cook(own_recipe(preset, "own.1"), where)
        first, again = spans(bench)[0], spans(bench)[-1]
        for one, two in zip(first["effects"], again["effects"], strict=True):
            assert {**one, "id": ""} == {**two, "id": ""}
        value = values[int(rng.integers(len(values)))]
        asked = asking(preset, **{value.path: "What"})
        row = value.parameter
        other = row.choices[-1] if row.choices else float(row.high)
        if row.whole and not row.choices:
            other = int(row.high)
        body = answered(preset.body, {value.path: other})
        assert body != preset.body or row.default in (row.high, len(row.choices) - 1)
        plan = bench.plan(own_recipe(asked, "own.1"), where, **{value.path: other})
        assert json.dumps(other) in json.dumps(plan.commands)


def test_what_has_nothing_to_give_is_refused_in_a_sentence():
    bench = Bench()
    with pytest.raises(Refused, match="no effects, fades or level"):
        taken(bench, Selected(clip="c-voice"))
    with pytest.raises(Refused, match="no treatment or sound from the shelf"):
        taken(bench, Selected(tracks=("t-voice",), start=0, end=RATE))
    with pytest.raises(Refused, match="select a clip, a treatment or a range"):
        taken(bench, Selected())
    with pytest.raises(Refused, match="no longer there"):
        taken(bench, Selected(treatments=("gone",)))


def test_a_track_that_is_not_there_is_said():
    bench = Bench(voice=noise(20.0, 1), music=noise(20.0, 2))
    keyed(bench, "a", 0, RATE, MUFFLE)
    bench.edit(
        kind="add_treatment", track="t-music", id="b", name="B", start={"sample": 0},
        end={"sample": RATE}, effects=[MUFFLE],
    )  # fmt: skip
    recipe = own_recipe(taken(bench, Selected(treatments=("a", "b"))), "own.1")
    other = Bench(voice=noise(20.0, 1))
    plan = other.cook(recipe, Place(start=0, end=4 * RATE, track="t-voice"))
    assert plan.said == ["There is no track “Music” here; what lies on it was left out."]
    assert len(spans(other)) == 1


def test_what_a_newer_version_made_is_used_in_part_and_said():
    bench = Bench()
    keyed(bench, "a", 0, RATE, MUFFLE, {"id": "g", "kind": "gain", "params": {"level_db": -6.0}})
    preset = taken(bench, Selected(treatments=("a",)))
    body = json.loads(json.dumps(preset.body))
    body["parts"][0]["effects"].insert(0, {"kind": "unheard", "params": {"x": 1}})
    body["parts"].append({"part": "bed", "model": "unheard"})
    body["questions"] = [
        {"label": "Level", "asks": ["0/2/level_db"]}, {"label": "X", "asks": ["0/0/x"]},
    ]  # fmt: skip
    newer = Preset(kind="recipe", name="Newer", body=body)
    recipe = own_recipe(newer, "own.1")
    # The question still names the effect that it named.
    assert [q.label for q in recipe.table.questions] == ["Level"]
    plan = bench.cook(recipe, Place(start=0, end=RATE, track="t-voice"), **{"0/2/level_db": -3.0})
    assert len(plan.said) == 2
    kinds = [(e["kind"], e["params"]) for e in spans(bench)[-1]["effects"]]
    assert kinds[1] == ("gain", {"level_db": -3.0})
    body["parts"] = [{"part": "bed", "model": "unheard"}]
    with pytest.raises(Refused, match="nothing of “Newer” is known here"):
        own_recipe(Preset(kind="recipe", name="Newer", body=body), "own.1")


@pytest.mark.parametrize("body", [
    {"needs": "stretch", "parts": []},
    {"needs": "moon", "parts": [{"part": "clip"}]},
    {"needs": "clip", "parts": [{"part": "noise"}]},
    {"needs": "stretch", "parts": [{"part": "treatment", "effects": []}]},
    {"needs": "clip", "parts": [{"part": "clip"}], "questions": [{"label": "", "asks": ["0/x"]}]},
    {"needs": "clip", "parts": [{"part": "clip", "gain_db": 1e9}]},
])  # fmt: skip
def test_a_file_that_holds_no_recipe_is_refused_with_its_place(body):
    file = {"format": "bathyphon-preset", "version": 1, "kind": "recipe", "name": "X", "body": body}
    with pytest.raises(Refused) as error:
        read_presets(file)
    assert error.value.where.startswith("body")


@pytest.mark.parametrize("params", [
    {"bands": 5}, {"bands": [5]}, {"bands": [{"gain_db": "loud"}]}, {"high_cut_hz": None},
])  # fmt: skip
def test_a_file_may_say_anything_of_its_values(params):
    for kind in ("eq", "muffle"):
        part = {"part": "treatment", "effects": [{"kind": kind, "params": params}]}
        body = {"needs": "stretch", "tracks": ["Voice"], "parts": [part]}
        values_of(Preset(kind="recipe", name="X", body=body).body)
