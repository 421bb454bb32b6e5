"""Pose sets: poses of one chain that are used on another with the same effects."""

import numpy as np
import pytest

from bathyphon.core.edits import apply_edit, parse_command
from bathyphon.core.errors import Refused
from bathyphon.core.presets.model import plain, read_presets
from bathyphon.core.presets.poses import preset_of_poses
from bathyphon.core.presets.using import Target, used_on
from bathyphon.core.reel.parse import read_reel
from reels import document, effect, treatment

RATE = 48000


def edited(doc, *commands):
    for command in commands:
        doc = apply_edit(doc, read_reel(doc), parse_command(command)).document
    return doc


def named(kind, id):
    return {**effect(kind), "id": id}


def sides():
    """A reel whose treatment has two muffles, with a pose left and one right."""
    doc = document(
        10 * RATE,
        treatments=[treatment(0, 4 * RATE, named("muffle", "a"), named("muffle", "b"))],
    )
    span = doc["tracks"][0]["treatments"][0]["id"]
    lanes = [f"treatment:{span}/a/high_cut_hz", f"treatment:{span}/b/high_cut_hz",
             f"treatment:{span}/strength", "mix/gain_db"]  # fmt: skip
    return edited(doc, *(
        {"kind": "add_pose", "pose": {"id": name, "name": name.capitalize(),
                                      "values": dict(zip(lanes, values, strict=True))}}
        for name, values in {"left": (500.0, 5000.0, 80.0, -3.0),
                             "right": (900.0, 9000.0, 40.0, -6.0)}.items()
    )), f"treatment:{span}"  # fmt: skip


def ids():
    count = iter(range(1000))
    return lambda letter: f"{letter}-new{next(count)}"


def kept(doc, owner):
    return read_presets(plain(preset_of_poses(doc, owner, "Sides")))[0]


def test_only_what_is_set_there_is_kept_by_what_it_is():
    doc, owner = sides()
    left, right = kept(doc, owner).body["poses"]
    assert left == {"name": "Left", "values": {
        "muffle:1/high_cut_hz": 500.0, "muffle:2/high_cut_hz": 5000.0, "strength": 80.0,
    }}  # fmt: skip
    assert right["values"]["strength"] == 40.0
    assert kept(doc, "mix").body["poses"][0]["values"] == {"gain_db": -3.0}
    with pytest.raises(Refused, match="no pose sets anything here"):
        kept(doc, f"track:{doc['tracks'][0]['id']}")


def test_they_are_stamped_on_another_treatment_as_on_their_own():
    doc, owner = sides()
    other = document(
        10 * RATE,
        treatments=[treatment(RATE, 8 * RATE, named("gain", "g"), named("muffle", "m"),
                              named("muffle", "n"))],
    )  # fmt: skip
    span = other["tracks"][0]["treatments"][0]["id"]
    target = Target(owner=f"treatment:{span}")
    used = used_on(kept(doc, owner), other, read_reel(other), target, ids())
    assert used.notes == []
    other = edited(other, *used.commands)
    names = {p["name"]: p["id"] for p in other["poses"]}
    run = [names["Left"], names["Right"]]
    places = [{"sample": 2 * RATE}, {"sample": 5 * RATE}]
    other = edited(other, {"kind": "stamp_poses", "run": run, "moments": places, "stamp": "s"})
    effects = other["tracks"][0]["treatments"][0]["effects"]
    for at, values in ((3 * RATE, (500.0, 5000.0)), (6 * RATE, (900.0, 9000.0))):
        for one, value in zip(effects[1:], values, strict=True):
            keys = [k for k in one["params"]["high_cut_hz"]["keyframes"] if k["at"] <= at - RATE]
            assert np.isclose(keys[-1]["value"], value)


def test_what_does_not_fit_is_left_out_and_said():
    doc, owner = sides()
    other = document(10 * RATE, treatments=[treatment(0, RATE, named("muffle", "m"))])
    span = other["tracks"][0]["treatments"][0]["id"]
    target = Target(owner=f"treatment:{span}")
    used = used_on(kept(doc, owner), other, read_reel(other), target, ids())
    assert used.notes == ["Values were left out: there is no Muffle number 2."]
    assert len(used.commands[0]["pose"]["values"]) == 2
    edited(other, *used.commands)
    bare = document(10 * RATE)
    track = f"track:{bare['tracks'][0]['id']}"
    two = kept(doc, owner)
    for pose in two.body["poses"]:
        pose["values"].pop("strength")
    with pytest.raises(Refused, match="none of the poses fits here: there is no Muffle here"):
        used_on(two, bare, read_reel(bare), Target(owner=track), ids())
    with pytest.raises(Refused, match="select the treatment"):
        used_on(two, bare, read_reel(bare), Target(tracks=("t1",), end=RATE), ids())


@pytest.mark.parametrize("values", [{}, {"": 1.0}, {"strength": "loud"}])
def test_a_file_without_values_is_refused(values):
    file = {"format": "bathyphon-preset", "version": 1, "kind": "poses", "name": "X",
            "body": {"poses": [{"name": "Left", "values": values}]}}  # fmt: skip
    with pytest.raises(Refused) as error:
        read_presets(file)
    assert error.value.where.startswith("body.poses.0")
