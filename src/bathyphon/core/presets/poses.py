"""Pose sets: poses of a chain, kept for others that hold the same effects.

In a reel a pose's values are named by their lanes, which hold the ids of that reel. A set names
them by what they are: ``strength``, ``pan``, or ``muffle:1/high_cut_hz``, the first muffle's cut.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from bathyphon.core.edits.commands.lanes import lane_of
from bathyphon.core.edits.find import places_of
from bathyphon.core.effects import EFFECTS
from bathyphon.core.errors import Refused
from bathyphon.core.presets.model import Preset
from bathyphon.core.reel.model import Document

Part = dict[str, Any]


def preset_of_poses(document: Document, owner: str, name: str) -> Preset:
    """The poses of a reel as far as they set values of an owner.

    Parameters
    ----------
    owner : str
        ``treatment:ID``, ``clip:ID``, ``track:ID`` or ``mix``.

    Raises
    ------
    Refused
        If no pose sets anything there.
    """
    lanes = _lanes(document, owner)
    poses = []
    for pose in document.get("poses", []):
        values = {
            role: value
            for lane, value in pose.get("values", {}).items()
            if (role := _role(lane, owner, lanes))
        }
        if values:
            poses.append({"name": pose.get("name") or pose["id"], "values": values})
    if not poses:
        raise Refused("no pose sets anything here; save one first", "owner")
    return Preset(kind="poses", name=name, body={"poses": poses})


def poses_on(
    poses: list[Part], document: Document, owner: str, new_id: Callable[[str], str]
) -> tuple[list[Part], list[str]]:
    """The edits that bring a set's poses to an owner, and what was left out, in sentences."""
    lanes = _lanes(document, owner)
    commands = []
    missing: dict[str, None] = {}
    for pose in poses:
        values = {}
        for role, value in pose["values"].items():
            effect, _, parameter = role.rpartition("/")
            if effect and effect not in lanes:
                missing[_missing(effect)] = None
                continue
            lane = f"{lanes[effect]}{parameter}" if effect else f"{owner}/{parameter}"
            try:
                values[lane] = lane_of(document, lane).fitted(value)
            except Refused:
                missing[f"{parameter} cannot move here"] = None
        if values:
            made = {"id": new_id("p"), "name": pose["name"], "values": values}
            commands.append({"kind": "add_pose", "pose": made})
    if not commands:
        raise Refused(f"none of the poses fits here: {'; '.join(missing)}")
    return commands, [f"Values were left out: {why}." for why in missing]


def _lanes(document: Document, owner: str) -> dict[str, str]:
    """The beginnings of lanes by what they are: ``muffle:1`` is ``treatment:f1/e1/``."""
    counted: dict[str, int] = {}
    found = {}
    for effect in places_of(document).effects(owner):
        kind = effect["kind"]
        counted[kind] = counted.get(kind, 0) + 1
        found[f"{kind}:{counted[kind]}"] = f"{owner}/{effect['id']}/"
    return found


def _role(lane: str, owner: str, lanes: dict[str, str]) -> str:
    """What a lane is; empty where it is another owner's, or its effect is no longer there."""
    if not lane.startswith(f"{owner}/"):
        return ""
    for role, begin in lanes.items():
        if lane.startswith(begin):
            return f"{role}/{lane.removeprefix(begin)}"
    rest = lane.removeprefix(f"{owner}/")
    return "" if "/" in rest else rest


def _missing(effect: str) -> str:
    kind, _, number = effect.partition(":")
    label = EFFECTS[kind].label if kind in EFFECTS else kind
    return f"there is no {label} here" if number == "1" else f"there is no {label} number {number}"
