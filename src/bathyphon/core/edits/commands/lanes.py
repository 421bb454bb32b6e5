"""Lanes: every value of a reel that may move, by one name.

A lane is called ``OWNER/VALUE`` or ``OWNER/EFFECT/PARAMETER``: ``track:t1/pan``,
``treatment:f1/strength``, ``clip:c1/gain_db``, ``mix/gain_db``, ``treatment:f1/e1/high_cut_hz``,
``track:t1/e1/bands.0.freq_hz``. Its keyframes count from its owner's start: the clip's, the
treatment's, the reel's for tracks and the mix.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

from bathyphon.core.edits.command import MOST_STEPS
from bathyphon.core.edits.commands.chains import chain_name, make_chain, span_of
from bathyphon.core.edits.find import Path, at, chain_path, clip_path, effect_path, track_path
from bathyphon.core.edits.movable import (
    CENTS,
    FORMANTS,
    LEVEL,
    LOWEST_DB,
    PAN,
    SEMITONES,
    SPEED,
    STRENGTH,
    Value,
)
from bathyphon.core.edits.patch import Patch, pointer
from bathyphon.core.effects import EFFECTS
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document
from bathyphon.core.timing.curves import Curve, Keyframe
from bathyphon.core.timing.shapes import SILENCE_DB, Scale

Point = dict[str, Any]
"""A keyframe as the document has it."""

SPEEDS = {
    "percent": (SPEED, "speed"),
    "semitones": (SEMITONES, "pitch"),
    "formant_shift": (FORMANTS, "formants"),
    "cents": (CENTS, "fine pitch"),
}
"""What moves of a clip's speed, and what the history calls it."""


@dataclass(frozen=True)
class Lane:
    """A value that may move, and where it lies.

    Parameters
    ----------
    name : str
    path : tuple
        Path of the value in the document; it need not be there yet.
    origin : int
        Sample of the reel that its keyframes count from.
    low, high, default : float
        Bounds, and the value while none is set.
    scale : {"linear", "log", "db"}
    label : str
        What the history calls it.
    make : list of dict
        Patch that makes what holds the value, if need be.
    unit : str
    whole : bool
        Whether only whole numbers will do.
    """

    name: str
    path: Path
    origin: int
    low: float
    high: float
    default: float
    scale: Scale
    label: str
    make: Patch
    unit: str = ""
    whole: bool = False

    @property
    def id(self) -> str:
        """The value's own name."""
        return self.name.rsplit("/", 1)[-1]

    def share(self, value: float) -> float:
        """Where a value lies between the bounds, 0 to 1, on its scale."""
        if self.scale == "log":
            return math.log(value / self.low) / math.log(self.high / self.low)
        floor = self._floor
        return (max(value, floor) - floor) / (self.high - floor)

    def at_share(self, share: float) -> float:
        """The value at a place between the bounds."""
        share = min(1.0, max(0.0, share))
        if self.scale == "log":
            return float(self.low * (self.high / self.low) ** share)
        if share == 0.0:
            return max(self.low, SILENCE_DB) if self.scale == "db" else self.low
        return self._floor + share * (self.high - self._floor)

    @property
    def _floor(self) -> float:
        # Whether a level is 70 or 80 dB down is not worth half of the scale.
        if self.scale == "db" and self.high > LOWEST_DB:
            return max(self.low, LOWEST_DB)
        return self.low

    def fitted(self, value: float) -> float:
        """The value within the bounds."""
        return min(self.high, max(self.low, value))


def lane_of(document: Document, name: str) -> Lane:
    """Find a lane by its name.

    Raises
    ------
    Refused
        If there is no such value, or it cannot move.
    """
    owner, *rest = name.split("/")
    if len(rest) == 2:
        return _of_effect(document, name, owner, rest[0], rest[1])
    if len(rest) != 1:
        raise Refused(f"“{name}” is not OWNER/VALUE or OWNER/EFFECT/PARAMETER", "lane")
    value = rest[0]
    if value == "strength":
        path = chain_path(document, owner)
        what = f"strength of {chain_name(document, owner)}"
        make = make_chain(document, owner)
        origin = _origin(document, owner)
        return _lane(name, (*path, value), origin, STRENGTH, what, make)
    kind, _, id = owner.partition(":")
    if value == "gain_db" and owner == "mix":
        make = [] if "mix" in document else [{"op": "add", "path": "/mix", "value": {}}]
        what = "level of the mix"
        return _lane(name, ("mix", value), 0, LEVEL, what, make)
    if value == "gain_db" and kind in ("clip", "track"):
        path = (clip_path if kind == "clip" else track_path)(document, id)
        what = f"level of {at(document, path).get('name') or id}"
        origin = at(document, path)["start"] if kind == "clip" else 0
        return _lane(name, (*path, value), origin, LEVEL, what, [])
    if value in SPEEDS and kind == "clip":
        path = clip_path(document, id)
        moving, what = SPEEDS[value]
        part = at(document, path)
        what = f"{what} of {part.get('name') or id}"
        make = (
            [] if "speed" in part else [{"op": "add", "path": pointer(*path, "speed"), "value": {}}]
        )
        where = (*path, "speed", value)
        return _lane(name, where, part["start"], moving, what, make)
    if value == "pan" and kind == "track":
        path = track_path(document, id)
        what = f"pan of {at(document, path).get('name') or id}"
        return _lane(name, (*path, value), 0, PAN, what, [])
    raise Refused(f"there is no value “{value}” of {owner} that can move", "lane")


def _lane(name: str, path: Path, origin: int, value: Value, label: str, make: Patch) -> Lane:
    low, high, default = float(value.low), float(value.high), float(value.default)
    return Lane(name, path, origin, low, high, default, value.scale, label, make, value.unit)


def _origin(document: Document, owner: str) -> int:
    return span_of(document, owner)[0] if owner.startswith(("treatment:", "clip:")) else 0


def _of_effect(document: Document, name: str, owner: str, effect: str, id: str) -> Lane:
    path = effect_path(document, owner, effect)
    part = at(document, path)
    known = EFFECTS.get(part["kind"])
    group, _, inner = id.partition(".")
    index, _, inner = inner.partition(".")
    make: Patch = []
    if inner and known and known.group and known.group.id == group:
        parameter = next((p for p in known.group.parameters if p.id == inner), None)
        entries = part.get("params", {}).get(group, [])
        if not index.isdigit() or int(index) >= len(entries):
            raise Refused(f"there is no {known.group.label.lower()} “{index}”", "lane")
        where: Path = (*path, "params", group, int(index), inner)
    else:
        parameter = known.parameter(id) if known else None
        where = (*path, "params", id)
        if "params" not in part:
            make = [{"op": "add", "path": pointer(*path, "params"), "value": {}}]
    if known is None or parameter is None or not parameter.movable:
        raise Refused(f"there is no value “{id}” of {part['kind']} that can move", "lane")
    default = parameter.default
    if default is None:
        # It follows another until it is set.
        followed = part.get("params", {}).get(parameter.follows, parameter.low)
        default = followed if isinstance(followed, (int, float)) else parameter.low
    return Lane(
        name,
        where,
        _origin(document, owner),
        parameter.low,
        parameter.high,
        float(default),
        parameter.scale,
        f"{parameter.label.lower()} of {known.label}",
        make,
        parameter.unit,
        parameter.whole,
    )


def value_of(document: Document, lane: Lane) -> Any:
    """What the document has there: a number, keyframes, or nothing."""
    node: Any = document
    for key in lane.path:
        if isinstance(node, dict) and key not in node:
            return None
        node = node[key]
    return node


def points_of(document: Document, lane: Lane) -> list[Point]:
    """The keyframes of a lane, none if it does not move."""
    found = value_of(document, lane)
    return list(found["keyframes"]) if isinstance(found, dict) else []


def curve_of(document: Document, lane: Lane) -> Curve:
    """A lane's values over time."""
    found = value_of(document, lane)
    if not isinstance(found, dict):
        return Curve.constant(lane.default if found is None else float(found), lane.scale)
    frames = tuple(keyframe_of(p) for p in found["keyframes"])
    return Curve(frames, lane.scale, bool(found.get("straight")))


def keyframe_of(point: Point) -> Keyframe:
    """A point as the engine sees it."""
    return Keyframe(
        point["at"],
        float(point["value"]),
        point.get("ease", "linear"),
        float(point.get("bend", 0.0)),
        float(point.get("soft", 0.0)),
    )


def set_lane(document: Document, lane: Lane, value: Any) -> Patch:
    """Patch that gives a lane a number or keyframes."""
    before = value_of(document, lane)
    if before == value:
        return []
    if isinstance(before, dict) and isinstance(value, dict):
        return _points_changed(lane, before["keyframes"], value["keyframes"])
    op = "add" if before is None else "replace"
    return [*lane.make, {"op": op, "path": pointer(*lane.path), "value": value}]


def _points_changed(lane: Lane, old: list[Point], new: list[Point]) -> Patch:
    """Patch from some keyframes to others that leaves alone what both begin and end with.

    A lane may hold thousands, of which an edit changes a few.
    """
    head = 0
    while head < min(len(old), len(new)) and old[head] == new[head]:
        head += 1
    foot = 0
    while foot < min(len(old), len(new)) - head and old[-1 - foot] == new[-1 - foot]:
        foot += 1
    place = (*lane.path, "keyframes")
    if len(old) + len(new) - 2 * (head + foot) > MOST_STEPS:
        # Step by step each would move all that come after it.
        return [{"op": "replace", "path": pointer(*place), "value": new}]
    gone = range(len(old) - foot - 1, head - 1, -1)
    come = range(head, len(new) - foot)
    return [
        *({"op": "remove", "path": pointer(*place, i)} for i in gone),
        *({"op": "add", "path": pointer(*place, i), "value": new[i]} for i in come),
    ]
