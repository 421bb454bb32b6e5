"""Presets of one's own: taken from one place, used on any other, read and written as JSON."""

from __future__ import annotations

import json
from pathlib import Path

import jsonschema
import numpy as np
import pytest

from bathyphon.core.edits import apply_edit, parse_command
from bathyphon.core.errors import Refused
from bathyphon.core.presets.model import FORMAT, plain, read_presets
from bathyphon.core.presets.places import as_samples, as_shares
from bathyphon.core.presets.schema import presets_schema
from bathyphon.core.presets.taking import preset_of, preset_of_bed
from bathyphon.core.presets.usable import usable
from bathyphon.core.presets.using import Target, used_on
from bathyphon.core.reel.parse import read_reel
from bathyphon.core.sounds.made import make

SCHEMA = Path(__file__).parents[3] / "docs" / "preset.schema.json"
RATE = 48000
FRAME = RATE // 25


def moving(*points):
    return {"keyframes": [{"at": at, "value": value, "ease": "linear"} for at, value in points]}


def reel(length=3 * RATE):
    effects = [
        {"id": "m", "kind": "muffle", "params": {"high_cut_hz": moving((0, 8000), (RATE, 400))}},
        {"id": "r", "kind": "reverb", "params": {"decay_s": 3.0}},
    ]
    span = {"id": "f1", "name": "Under", "start": RATE, "length": length, "effects": effects,
            "ramp_in": {"length": 3 * FRAME, "shape": "smooth"},
            "ramp_out": {"length": 6 * FRAME, "shape": "linear"},
            "strength": moving((0, 0), (length, 100)), "ring_out": RATE // 2}  # fmt: skip
    gain = {"id": "g", "kind": "gain", "params": {"level_db": -3}}
    clip = {"id": "c1", "media": "m1", "start": 0, "length": 10 * RATE,
            "treatment": {"effects": [gain]}}  # fmt: skip
    other = {"id": "t2", "clips": [{"id": "c2", "media": "m1", "start": 0, "length": 40 * RATE}],
             "treatments": []}  # fmt: skip
    return {
        "format": "bathyphon-reel", "version": 1, "frame_rate": "25/1", "sample_rate": RATE,
        "media": [{"id": "m1", "path": "a.wav"}],
        "tracks": [{"id": "t1", "clips": [clip], "treatments": [span]}, other],
    }  # fmt: skip


def ids():
    count = iter(range(1000))
    return lambda letter: f"{letter}new{next(count)}"


def use(document, preset, **target):
    used = used_on(preset, document, read_reel(document), Target(**target), ids())
    for command in used.commands:
        document = apply_edit(document, read_reel(document), parse_command(command)).document
    return document, used.notes


def take(document, kind, owner, **more):
    return preset_of(document, read_reel(document), kind, owner, "Mine", **more)


def test_a_treatment_of_three_seconds_fits_thirty():
    document = reel()
    preset = take(document, "treatment", "treatment:f1")
    made, _ = use(document, preset, tracks=("t2",), start=5 * RATE, end=35 * RATE)
    (span,) = made["tracks"][1]["treatments"]
    assert (span["start"], span["length"]) == (5 * RATE, 30 * RATE)
    # Ramps keep their frames, keyframes their places in proportion, the ring-out its seconds.
    assert span["ramp_in"] == {"length": 3 * FRAME, "shape": "smooth"}
    assert span["ramp_out"]["length"] == 6 * FRAME
    keys = span["effects"][0]["params"]["high_cut_hz"]["keyframes"]
    assert [k["at"] for k in keys] == [0, 10 * RATE]
    assert [k["at"] for k in span["strength"]["keyframes"]] == [0, 30 * RATE]
    assert span["ring_out"] == RATE // 2
    assert not {e["id"] for e in span["effects"]} & {"m", "r"}


@pytest.mark.parametrize("frames", [1, 2, 5, 8])
def test_on_a_short_stretch_its_ramps_share_what_there_is(frames):
    document = reel()
    preset = take(document, "treatment", "treatment:f1")
    made, _ = use(document, preset, tracks=("t2",), start=0, end=frames * FRAME)
    (span,) = made["tracks"][1]["treatments"]
    assert span["ramp_in"]["length"] + span["ramp_out"]["length"] <= span["length"]
    read_reel(made)


@pytest.mark.parametrize("owner", ["clip:c1", "clip:c2", "track:t2", "mix", "treatment:f1"])
@pytest.mark.parametrize("replace", [False, True])
def test_a_chain_is_used_on_anything(owner, replace):
    document = reel()
    preset = take(document, "chain", "treatment:f1")
    made, notes = use(document, preset, owner=owner, replace=replace)
    assert notes == []
    read_reel(made)
    text = json.dumps(made)
    assert text.count('"kind": "muffle"') == (1 if replace and owner == "treatment:f1" else 2)


def test_one_effect_is_kept_without_the_others():
    document = reel()
    preset = take(document, "effect", "treatment:f1", effect="r")
    assert preset.body == {"kind": "reverb", "params": {"decay_s": 3.0}}
    made, _ = use(document, preset, owner="clip:c1")
    kinds = [e["kind"] for e in made["tracks"][0]["clips"][0]["treatment"]["effects"]]
    assert kinds == ["gain", "reverb"]


def test_what_names_something_of_its_own_reel_stays_behind():
    document = reel()
    duck = {"id": "d", "kind": "duck", "params": {"track": "t2", "range_db": 20}}
    document["tracks"][0]["treatment"] = {"effects": [duck]}
    preset = take(document, "chain", "track:t1")
    assert preset.body["effects"][0]["params"] == {"range_db": 20}


def test_a_place_keeps_how_it_answers():
    document = reel()
    space = {"id": "s", "kind": "space", "params": {"response": "pipe", "mix": 40, "file": "m1"}}
    document["tracks"][0]["treatment"] = {"effects": [space]}
    preset = take(document, "chain", "track:t1")
    # A recording belongs to its reel; a computed place is everywhere.
    assert preset.body["effects"][0]["params"] == {"response": "pipe", "mix": 40}
    made, notes = use(document, preset, owner="clip:c2")
    assert notes == []
    (effect,) = made["tracks"][1]["clips"][0]["treatment"]["effects"]
    assert effect["params"]["response"] == "pipe"


def test_a_bed_is_its_sound():
    made = make("rain", {"on": "roof"}, 7, 60.0, "Roof")
    preset = preset_of_bed(made, "Roof rain", -4.0)
    assert preset.body["seed"] == 7
    assert usable(preset) == (preset, [])
    with pytest.raises(Refused, match="laid"):
        use(reel(), preset, owner="mix")


@pytest.mark.parametrize("seed", range(4))
def test_presets_survive_json_with_keys_of_other_versions(seed):
    chance = np.random.default_rng(seed)
    document = reel()
    presets = [take(document, kind, "treatment:f1") for kind in ("chain", "treatment")]
    listed = []
    for preset in presets:
        part = plain(preset)
        part["colour"] = float(chance.uniform())
        part["body"]["later"] = {"deep": [1, 2]}
        listed.append(part)
    file = {"format": "bathyphon-preset", "version": 1, "presets": listed, "by": "somebody"}
    again = [plain(p) for p in read_presets(json.loads(json.dumps(file)))]
    assert again == listed
    assert plain(read_presets(listed[0])[0]) == listed[0]


@pytest.mark.parametrize("seed", range(5))
def test_shares_come_back_as_samples(seed):
    chance = np.random.default_rng(seed)
    length = int(chance.integers(1, 10**8))
    at = np.unique(chance.integers(0, length + 1, 12)).tolist()
    value = {"deep": [moving(*((a, 1.0) for a in at))], "plain": 3}
    assert as_samples(as_shares(value, length), length) == value


GOOD = {"format": "bathyphon-preset", "version": 1, "kind": "effect", "name": "One",
        "body": {"kind": "gain", "params": {"level_db": -3}}}  # fmt: skip
GAIN = GOOD["body"]


def keyed(keyframes):
    return {"kind": "gain", "params": {"level_db": {"keyframes": keyframes}}}


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"format": "other"}, "no file of presets"),
        ({"version": 2}, "newer version"),
        ({"version": None}, "does not say its version"),
        ({"kind": "meal"}, "cannot be read"),
        ({"name": ""}, "cannot be read"),
        ({"body": {}}, "body.kind: “One” cannot be read: it is missing"),
        ({"body": {"kind": "gain", "params": 3}}, "body.params: .* it must be an object"),
        ({"kind": "chain", "body": {"effects": []}}, "body.effects: .* it must not be empty"),
        ({"kind": "chain", "body": {"effects": [3]}}, "effects.0"),
        ({"kind": "chain", "body": {"effects": [GAIN], "ring_out": {}}}, "ring_out"),
        ({"kind": "treatment", "body": {"effects": [GAIN], "ramp_in": 5}}, "ramp_in: "),
        (
            {"kind": "treatment", "body": {"effects": [GAIN], "ramp_out": {"frames": -1}}},
            "ramp_out",
        ),
        ({"kind": "bed", "body": {}}, "body.model: .* it is missing"),
        ({"kind": "bed", "body": {"model": "rain", "seed": -1}}, "seed"),
        ({"kind": "bed", "body": {"model": "rain", "settings": [1]}}, "settings"),
        ({"body": keyed([])}, "a list that holds some"),
        ({"body": keyed(3)}, "a list that holds some"),
        ({"body": keyed([{"at": 0, "value": 1}])}, "a share of its length"),
        ({"body": keyed([{"share": True, "value": 1}])}, "a share of its length"),
        ({"body": keyed([{"share": 1e300, "value": 1}])}, "a share of its length"),
        ({"presets": 3}, "must be a list"),
        ({"presets": [3]}, "cannot be read"),
    ],
)
def test_what_is_no_preset_says_why(change, says):
    with pytest.raises(Refused, match=says):
        read_presets({**GOOD, **change})


def test_what_is_not_known_here_is_left_out_and_told():
    (preset,) = read_presets(
        {**GOOD, "kind": "chain", "body": {"effects": [
            {"kind": "warp", "params": {}},
            {"kind": "gain", "params": {"level_db": -3, "colour": 1}}]}}
    )  # fmt: skip
    left, notes = usable(preset)
    assert [e["params"] for e in left.body["effects"]] == [{"level_db": -3}]
    assert notes == [
        "The effect “warp” is not known here and was left out.",
        "Gain does not know colour; these were left out.",
    ]
    (nothing,) = read_presets({**GOOD, "body": {"kind": "warp", "params": {}}})
    with pytest.raises(Refused, match="no effect of “One” is known here"):
        usable(nothing)


def test_nothing_is_kept_of_nothing():
    document = reel()
    with pytest.raises(Refused, match="no effects here"):
        take(document, "chain", "track:t2")
    with pytest.raises(Refused, match="ramps"):
        take(document, "treatment", "clip:c1")
    with pytest.raises(Refused, match="select what"):
        use(document, take(document, "chain", "clip:c1"))


def test_the_shipped_schema_is_true_of_what_is_written():
    told = "python -m bathyphon.core.presets.schema > docs/preset.schema.json"
    shipped = json.loads(SCHEMA.read_text(encoding="utf-8"))
    assert shipped == presets_schema(), told
    one = plain(take(reel(), "treatment", "treatment:f1"))
    for file in (one, {"format": FORMAT, "version": 1, "presets": [one, GOOD]}):
        jsonschema.validate(json.loads(json.dumps(file)), shipped)
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate({**one, "kind": "meal"}, shipped)
