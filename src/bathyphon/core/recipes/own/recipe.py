"""A recipe of one's own, carried out as the others are."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from functools import partial
from typing import Any

from bathyphon.core.edits.find import at, chain_path
from bathyphon.core.edits.here import Stretch
from bathyphon.core.effects import EFFECTS
from bathyphon.core.errors import Refused
from bathyphon.core.presets.model import Preset
from bathyphon.core.presets.usable import usable
from bathyphon.core.presets.using import chain_values, effects_of, samples_of
from bathyphon.core.recipes.kit.plan import Plan
from bathyphon.core.recipes.kit.recipe import Recipe
from bathyphon.core.recipes.kit.scene import Scene
from bathyphon.core.recipes.kit.table import Needs, RecipeTable
from bathyphon.core.recipes.own.values import answered, values_of
from bathyphon.core.sounds import MODELS

Body = dict[str, Any]


def own_recipe(preset: Preset, id: str) -> Recipe:
    """The recipe of a preset; what this version does not know of it is said when it is used.

    Parameters
    ----------
    preset : Preset
        Of kind ``recipe``.
    id : str
        What it is called in documents.

    Raises
    ------
    Refused
        Where nothing of it is known here.
    """
    known, notes = usable(preset)
    body = known.body
    values = {value.path: value.parameter for value in values_of(body)}
    rows, asks = [], {}
    for question in body.get("questions", []):
        paths = [path for path in question["asks"] if path in values]
        # One that asks for nothing that is there is left out.
        if paths and paths[0] not in asks:
            rows.append(replace(values[paths[0]], id=paths[0], label=question["label"]))
            asks[paths[0]] = paths
    needs: Needs = body["needs"]
    table = RecipeTable(
        id=id, label=preset.name, place=0, needs=needs, questions=tuple(rows),
        help=preset.note or _help(body),
    )  # fmt: skip
    return Recipe(table, partial(_build, body, asks, notes))


def _build(
    body: Body,
    asks: Mapping[str, list[str]],
    notes: list[str],
    scene: Scene,
    answers: Mapping[str, Any],
    plan: Plan,
) -> None:
    """Its parts, with the answers in their places, where the scene is."""
    plan.said += notes
    body = answered(body, {path: answers[id] for id, paths in asks.items() for path in paths})
    if body["needs"] == "clip":
        for part in body["parts"]:
            if part["part"] == "clip":
                _on_clip(part, scene, plan)
        return
    stretch = scene.stretch()
    tracks = _tracks(body, scene, plan)
    for part in body["parts"]:
        length = stretch.end - stretch.start
        within = Stretch(
            stretch.start + round(part.get("start", 0.0) * length),
            stretch.start + round(part.get("end", 1.0) * length),
        )
        if part["part"] != "treatment":
            _sound(part, within, plan)
        elif (track := tracks.get(part.get("track", 0))) is not None:
            _treatment(part, within, track, scene, plan)
    if not plan.commands:
        raise Refused("nothing of this recipe fits here")


def _treatment(part: Body, within: Stretch, track: str, scene: Scene, plan: Plan) -> None:
    length = within.end - within.start
    effects = effects_of(_known(part), length, scene.new_id)
    if not effects:
        return
    reel = scene.reel
    plan.treat(
        track, within, effects,
        ramp_in=samples_of(part.get("ramp_in", {}), reel),
        ramp_out=samples_of(part.get("ramp_out", {}), reel),
        name=part.get("name", ""),
        shapes=(_shape(part.get("ramp_in", {})), _shape(part.get("ramp_out", {}))),
        chain=chain_values(part, reel, length),
    )  # fmt: skip


def _sound(part: Body, within: Stretch, plan: Plan) -> None:
    model = MODELS.get(part["model"])
    if model is None:
        return
    name = part.get("name") or model.table.label
    settings = model.settings(part.get("settings", {}))
    kept = {"gain_db": part.get("gain_db", 0.0), "seed": part.get("seed", 1)}
    if part["part"] == "bed":
        plan.bed(within, model.id, settings, name, **kept)
    else:
        plan.hit(within.start, model.id, settings, name, **kept)


def _on_clip(part: Body, scene: Scene, plan: Plan) -> None:
    clip, _ = scene.clip()
    owner, length = f"clip:{clip['id']}", clip["length"]
    effects = effects_of(_known(part), length, scene.new_id)
    if effects:
        plan.effects(owner, effects)
        plan.cover(clip["start"], clip["start"] + length)
        values = chain_values(part, scene.reel, length)
        if values:
            before = _chain(scene, owner)
            plan.commands.append({"kind": "set_chain", "owner": owner, **values})
            was = {"strength": 100.0, "ring_out": "auto"}
            back = {key: before.get(key, was[key]) for key in values}
            plan.back.insert(0, {"kind": "set_chain", "owner": owner, **back})
    values = {}
    for key in ("fade_in", "fade_out"):
        if part.get(key):
            fade = min(samples_of(part[key], scene.reel), length)
            values[key] = {**_shape(part[key]), "length": fade}
    if part.get("gain_db") is not None:
        values["gain_db"] = part["gain_db"]
    if values:
        plan.set_clip(clip["id"], **values)


def _chain(scene: Scene, owner: str) -> Body:
    try:
        chain: Body = at(scene.document, chain_path(scene.document, owner))
    except KeyError:
        return {}
    return chain


def _tracks(body: Body, scene: Scene, plan: Plan) -> dict[int, str]:
    """Which track each of a recipe's tracks is here: the selected one, or that of the name."""
    names: list[str] = list(body.get("tracks", []))
    if not names:
        return {}
    place = scene.place
    if len(names) == 1 and place.track is not None:
        return {0: place.track}
    by_name = {t.get("name", "").strip().lower(): t["id"] for t in reversed(scene.tracks())}
    found = {}
    for number, name in enumerate(names):
        id = by_name.get(name.strip().lower())
        if id is None:
            if len(names) == 1:
                raise Refused("select a range or a treatment on the track that it is for")
            plan.said.append(f"There is no track “{name}” here; what lies on it was left out.")
        else:
            found[number] = id
    if not found and not any(p["part"] in ("bed", "hit") for p in body["parts"]):
        raise Refused(f"there is no track {' or '.join(f'“{name}”' for name in names)} here")
    return found


def _known(part: Body) -> list[Body]:
    return [effect for effect in part.get("effects", []) if effect["kind"] in EFFECTS]


def _shape(ramp: Body) -> Body:
    return {k: v for k, v in ramp.items() if k in ("shape", "bend")}


def _help(body: Body) -> str:
    """What it makes, in a sentence."""
    words: list[str] = []
    for part in body["parts"]:
        if part["part"] in ("bed", "hit"):
            words.append(part.get("name") or part["model"])
        words += [EFFECTS[e["kind"]].label for e in _known(part)]
    said = ", ".join(dict.fromkeys(words)) or "fades and a level"
    return f"Adds {said}."
