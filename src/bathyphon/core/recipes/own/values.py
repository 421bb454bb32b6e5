"""The values of a recipe of one's own: which there are, and what answers make of them.

A value is named ``PART/VALUE`` or ``PART/EFFECT/PARAMETER`` by the numbers of part and effect:
``0/strength``, ``0/ramp_in``, ``1/gain_db``, ``0/2/high_cut_hz``, ``0/0/bands.1.gain_db``.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from copy import deepcopy
from dataclasses import dataclass, replace
from typing import Any

from bathyphon.core.effects import EFFECTS
from bathyphon.core.effects.kit.table import Parameter
from bathyphon.core.errors import Refused
from bathyphon.core.recipes.kit.table import ask, frames
from bathyphon.core.sounds import MODELS

Body = dict[str, Any]
LONGEST_RAMP = 2500
"""Frames that a ramp may be asked to last."""
LEVEL = ask("gain_db", "Level", "dB", -60.0, 24.0, 0.0, "How loud it is.", scale="db")
STRENGTH = ask("strength", "Strength", "%", 0.0, 100.0, 100.0, "How far the treatment goes.")
NAMES = {"treatment": "Treatment", "clip": "Clip", "bed": "Bed", "hit": "Hit"}
RAMPS = {
    "ramp_in": frames("ramp_in", "Ramp in", 0, "Frames over which it sets in.", LONGEST_RAMP),
    "ramp_out": frames("ramp_out", "Ramp out", 0, "Frames over which it ends.", LONGEST_RAMP),
    "fade_in": frames("fade_in", "Fade in", 0, "Frames over which the clip sets in.", LONGEST_RAMP),
    "fade_out": frames("fade_out", "Fade out", 0, "Frames over which the clip ends.", LONGEST_RAMP),
}


@dataclass(frozen=True)
class Value:
    """A value that may be asked for.

    Parameters
    ----------
    path : str
    of : str
        What it belongs to, for people.
    parameter : Parameter
        With the present value as its default.
    telling : bool
        Whether it was set by hand to something else than it comes as.
    """

    path: str
    of: str
    parameter: Parameter
    telling: bool


def values_of(body: Body) -> list[Value]:
    """Every value of a recipe that stands still; what has keyframes keeps them."""
    return [value for number, part in enumerate(body["parts"]) for value in _in_part(number, part)]


def answered(body: Body, answers: Mapping[str, float | str]) -> Body:
    """A recipe's body with other values at some paths."""
    body = deepcopy(body)
    for path, value in answers.items():
        number, *rest = path.split("/")
        part = body["parts"][int(number)]
        if len(rest) == 2:
            _set_in_effect(part["effects"][int(rest[0])], rest[1], value)
        elif rest[0] in RAMPS:
            part[rest[0]] = {**(part.get(rest[0]) or {}), "frames": value}
        elif part["part"] in ("bed", "hit") and rest[0] != "gain_db":
            part["settings"] = {**part.get("settings", {}), rest[0]: value}
        else:
            part[rest[0]] = value
    return body


def _in_part(number: int, part: Body) -> Iterator[Value]:
    kind = part["part"]
    name = str(part.get("name") or NAMES.get(kind, kind))
    if kind in ("bed", "hit"):
        yield from _in_sound(number, part, name)
        return
    for index, effect in enumerate(part.get("effects", [])):
        yield from _in_effect(f"{number}/{index}", effect)
    if kind == "treatment":
        yield from _own(number, name, STRENGTH, part.get("strength", 100.0))
    if kind == "clip" and part.get("gain_db") is not None:
        yield from _own(number, name, LEVEL, part["gain_db"])
    for key in ("ramp_in", "ramp_out") if kind == "treatment" else ("fade_in", "fade_out"):
        if part.get(key) is not None:
            yield from _own(number, name, RAMPS[key], round(part[key].get("frames", 0)))


def _own(number: int, name: str, parameter: Parameter, value: Any) -> Iterator[Value]:
    if _still(value):
        yield Value(f"{number}/{parameter.id}", name, replace(parameter, default=value), False)


def _in_sound(number: int, part: Body, name: str) -> Iterator[Value]:
    yield from _own(number, name, LEVEL, part.get("gain_db", 0.0))
    model = MODELS.get(part["model"])
    if model is None:
        return
    try:
        given = model.settings(part.get("settings", {}))
    except Refused:
        return  # A file may say anything; it is told when the recipe is used.
    for row in model.table.parameters:
        known = replace(row, default=given[row.id], movable=False)
        yield Value(f"{number}/{row.id}", name, known, given[row.id] != row.default)


def _in_effect(where: str, effect: Body) -> Iterator[Value]:
    known = EFFECTS.get(effect["kind"])
    if known is None:
        return
    params = effect.get("params", {})
    rows = [(row.id, row, params.get(row.id)) for row in known.parameters]
    if known.group:
        entries = params.get(known.group.id, [])
        for index, entry in enumerate(entries if isinstance(entries, list) else []):
            if not isinstance(entry, dict):
                continue
            for row in known.group.parameters:
                label = replace(row, label=f"{row.label} {index + 1}")
                rows.append((f"{known.group.id}.{index}.{row.id}", label, entry.get(row.id)))
    for id, row, given in rows:
        if row.default is None and given is None:
            continue  # It follows another until it is set.
        value = row.default if given is None else given
        if row.choices:
            value = row.chosen(value) if isinstance(value, str) else value
        if not _still(value):
            continue
        yield Value(
            f"{where}/{id}", known.label,
            replace(row, default=value, neutral=None, follows="", movable=False, counts_for=None),
            value != row.default,
        )  # fmt: skip


def _set_in_effect(effect: Body, id: str, value: float | str) -> None:
    params = effect.setdefault("params", {})
    group, _, rest = id.partition(".")
    if rest:
        index, _, id = rest.partition(".")
        params[group][int(index)][id] = value
    else:
        params[id] = value


def _still(value: Any) -> bool:
    return isinstance(value, (int, float)) and not isinstance(value, bool)
