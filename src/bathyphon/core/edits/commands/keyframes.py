"""Commands on keyframes. A keyframe is addressed by its lane and by its sample in it."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from bathyphon.core.edits.command import EditCommand
from bathyphon.core.edits.commands.lanes import (
    Lane,
    Point,
    curve_of,
    lane_of,
    points_of,
    set_lane,
    value_of,
)
from bathyphon.core.edits.patch import Patch
from bathyphon.core.edits.points import mirrored, put, replaced, sharper, softer, thinned, without
from bathyphon.core.edits.spans import Moment
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document, Ease
from bathyphon.core.timing.clock import Clock

MOST = 5000
"""Keyframes of one edit."""


class Key(BaseModel):
    """One keyframe: its lane and its sample from the lane's origin."""

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True)
    lane: str
    at: int


class NewKey(BaseModel):
    """A keyframe to be: without a value it takes what the lane has there."""

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True)
    lane: str
    moment: Moment
    value: float | None = None
    ease: Ease | None = None
    bend: float | None = Field(None, ge=-1, le=1)
    soft: float | None = Field(None, ge=0, le=1)


class Turned(BaseModel):
    """What a control stood at at a sample of the reel."""

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True)
    at: int = Field(ge=0)
    value: float


Keys = list[Key]
SomeKeys = Field(min_length=1, max_length=MOST)


def by_lane(document: Document, keys: list[Key]) -> list[tuple[Lane, set[int]]]:
    """The lanes of keyframes and their samples; refuses those that are not there."""
    places: dict[str, set[int]] = {}
    for key in keys:
        places.setdefault(key.lane, set()).add(key.at)
    found = []
    for name, wanted in places.items():
        lane = lane_of(document, name)
        if wanted - {p["at"] for p in points_of(document, lane)}:
            raise Refused(f"a keyframe of {lane.label} is not there; it may have been moved", name)
        found.append((lane, wanted))
    return found


def moments_of(document: Document, keys: list[Key]) -> list[int]:
    """Samples of the reel at which keyframes lie."""
    origins = {name: lane_of(document, name).origin for name in {key.lane for key in keys}}
    return [origins[key.lane] + key.at for key in keys]


def with_columns(document: Document, keys: list[Key]) -> list[Key]:
    """Keyframes, and all that were stamped together with one of them."""
    stamps: set[str] = set()
    for lane, places in by_lane(document, keys):
        found = points_of(document, lane)
        stamps |= {p["stamp"] for p in found if p["at"] in places and p.get("stamp")}
    if not stamps:
        return keys
    names = {name for pose in document.get("poses", []) for name in pose.get("values", {})} | {
        key.lane for key in keys
    }
    more = set(keys)
    for name in sorted(names):
        try:
            lane = lane_of(document, name)
        except Refused:
            continue  # A pose may name what has been removed since.
        found = points_of(document, lane)
        more |= {Key(lane=name, at=p["at"]) for p in found if p.get("stamp") in stamps}
    return sorted(more, key=lambda key: (key.lane, key.at))


def words(document: Document, keys: list[Key]) -> str:
    """What the history calls keyframes."""
    if len(keys) == 1:
        return f"a keyframe of {lane_of(document, keys[0].lane).label}"
    return f"{len(keys)} keyframes"


def changed(document: Document, keys: list[Key], change: Callable[[Lane, Point], Point]) -> Patch:
    """Patch that changes keyframes one by one."""
    patch: Patch = []
    for lane, places in by_lane(document, keys):
        points = replaced(points_of(document, lane), places, partial(change, lane))
        patch += set_lane(document, lane, {"keyframes": points})
    return patch


class PutKeyframes(EditCommand):
    """Put keyframes into lanes; what stood at the same sample gives way.

    A lane without keyframes had a number: it holds before the first and after the last.
    """

    kind: Literal["put_keyframes"]
    keys: list[NewKey] = Field(min_length=1, max_length=MOST)

    def patch(self, document: Document, clock: Clock) -> Patch:
        new: dict[str, list[Point]] = {}
        lanes = {name: lane_of(document, name) for name in {key.lane for key in self.keys}}
        curves = {name: curve_of(document, lane) for name, lane in lanes.items()}
        there = {
            name: {p["at"]: p for p in points_of(document, lane)} for name, lane in lanes.items()
        }
        for key in self.keys:
            lane, curve = lanes[key.lane], curves[key.lane]
            place = key.moment.of(clock) - lane.origin
            before = there[key.lane].get(place, {})
            value = curve.at(place, clock.sample_rate) if key.value is None else key.value
            given = {"ease": key.ease, "bend": key.bend, "soft": key.soft}
            point = {
                **{k: v for k, v in before.items() if k in ("ease", "bend", "soft")},
                **{k: v for k, v in given.items() if v is not None},
                "at": place,
                "value": lane.fitted(value),
            }
            new.setdefault(key.lane, []).append(point)
        patch: Patch = []
        for name in sorted(new):
            points = put(points_of(document, lanes[name]), new[name])
            patch += set_lane(document, lanes[name], {"keyframes": points})
        return patch

    def title(self, document: Document) -> str:
        if len(self.keys) == 1:
            return f"set a keyframe of {lane_of(document, self.keys[0].lane).label}"
        return f"set {len(self.keys)} keyframes"


class MoveKeyframes(EditCommand):
    """Move keyframes in time and value; those that were stamped together move as one column."""

    kind: Literal["move_keyframes"]
    keys: Keys = SomeKeys
    frames: int | None = None
    samples: int | None = None
    share: float = 0.0

    def patch(self, document: Document, clock: Clock) -> Patch:
        keys = with_columns(document, self.keys) if self.frames or self.samples else self.keys
        own = set(self.keys)

        def moved(lane: Lane, point: Point) -> Point:
            place = lane.origin + point["at"]
            if self.frames is not None:
                place = clock.move_by_frames(place, self.frames)
            place += self.samples or 0
            new = {**point, "at": place - lane.origin}
            if self.share and Key(lane=lane.name, at=point["at"]) in own:
                new["value"] = lane.at_share(lane.share(point["value"]) + self.share)
                new.pop("pose", None)
            return new

        return changed(document, keys, moved)

    def title(self, document: Document) -> str:
        return f"move {words(document, self.keys)}"


class SetKeyframes(EditCommand):
    """Give keyframes a value, a moment or a way to the next."""

    kind: Literal["set_keyframes"]
    keys: Keys = SomeKeys
    value: float | None = None
    moment: Moment | None = None
    ease: Ease | None = None
    bend: float | None = Field(None, ge=-1, le=1)
    soft: float | None = Field(None, ge=0, le=1)

    def patch(self, document: Document, clock: Clock) -> Patch:
        given = {
            k: v
            for k, v in (("ease", self.ease), ("bend", self.bend), ("soft", self.soft))
            if v is not None
        }
        place = None if self.moment is None else self.moment.of(clock)
        first = min(moments_of(document, self.keys))
        keys = self.keys if place is None else with_columns(document, self.keys)
        own = set(self.keys)

        def one(lane: Lane, point: Point) -> Point:
            new = dict(point)
            if Key(lane=lane.name, at=point["at"]) in own:
                new |= given
                if self.value is not None:
                    new["value"] = lane.fitted(self.value)
                    new.pop("pose", None)
            if place is not None:
                # Several keep their distances from the first of them.
                new["at"] = point["at"] + place - first
            return new

        return changed(document, keys, one)

    def title(self, document: Document) -> str:
        return f"set {words(document, self.keys)}"


class ScaleKeyframes(EditCommand):
    """Stretch keyframes in time about the first of them, or in value about a value."""

    kind: Literal["scale_keyframes"]
    keys: Keys = SomeKeys
    time: float = Field(1.0, gt=0, le=1000)
    value: float = Field(1.0, ge=-1000, le=1000)
    about: float | None = None

    def patch(self, document: Document, clock: Clock) -> Patch:
        first = min(moments_of(document, self.keys))
        lanes = by_lane(document, self.keys)
        middle = {}
        for lane, places in lanes:
            earliest = min((p for p in points_of(document, lane) if p["at"] in places), key=_at)
            middle[lane.name] = lane.share(earliest["value"] if self.about is None else self.about)

        def scaled(lane: Lane, point: Point) -> Point:
            place = first + round((lane.origin + point["at"] - first) * self.time)
            new = {**point, "at": place - lane.origin}
            if self.value != 1.0:
                share = middle[lane.name]
                new["value"] = lane.at_share(
                    share + (lane.share(point["value"]) - share) * self.value
                )
                new.pop("pose", None)
            return new

        return changed(document, self.keys, scaled)

    def title(self, document: Document) -> str:
        what = "stretch" if self.value == 1.0 else "scale"
        return f"{what} {words(document, self.keys)}"


class ReverseKeyframes(EditCommand):
    """Let keyframes run the other way between the first and the last of them."""

    kind: Literal["reverse_keyframes"]
    keys: Keys = SomeKeys

    def patch(self, document: Document, clock: Clock) -> Patch:
        moments = moments_of(document, self.keys)
        first, last = min(moments), max(moments)
        patch: Patch = []
        for lane, places in by_lane(document, self.keys):
            points = points_of(document, lane)
            chosen = [p for p in points if p["at"] in places]
            turned = mirrored(chosen, first - lane.origin, last - lane.origin)
            patch += set_lane(document, lane, {"keyframes": put(without(points, places), turned)})
        return patch

    def title(self, document: Document) -> str:
        return f"reverse {words(document, self.keys)}"


class SoftenKeyframes(EditCommand):
    """Make the way from keyframes to the next a step softer or sharper."""

    kind: Literal["soften_keyframes"]
    keys: Keys = SomeKeys
    by: Literal[-1, 1]

    def patch(self, document: Document, clock: Clock) -> Patch:
        change = softer if self.by > 0 else sharper
        return changed(document, self.keys, lambda lane, point: change(point))

    def title(self, document: Document) -> str:
        return f"{'soften' if self.by > 0 else 'sharpen'} {words(document, self.keys)}"


class RemoveKeyframes(EditCommand):
    """Remove keyframes; a lane that loses its last keeps that one's value."""

    kind: Literal["remove_keyframes"]
    keys: Keys = SomeKeys

    def patch(self, document: Document, clock: Clock) -> Patch:
        patch: Patch = []
        for lane, places in by_lane(document, self.keys):
            points = points_of(document, lane)
            left = without(points, places)
            value = {"keyframes": left} if left else points[-1]["value"]
            patch += set_lane(document, lane, value)
        return patch

    def title(self, document: Document) -> str:
        return f"remove {words(document, self.keys)}"


class SetLane(EditCommand):
    """Give a lane one value for all time, without keyframes."""

    kind: Literal["set_lane"]
    lane: str
    value: float

    def patch(self, document: Document, clock: Clock) -> Patch:
        lane = lane_of(document, self.lane)
        return set_lane(document, lane, lane.fitted(self.value))

    def title(self, document: Document) -> str:
        lane = lane_of(document, self.lane)
        moved = isinstance(value_of(document, lane), dict)
        return f"{'take the keyframes from' if moved else 'set'} {lane.label}"


class RecordKeyframes(EditCommand):
    """What a control did while it was turned during play, thinned to few keyframes.

    It takes the place of all keyframes from its first moment to its last.
    """

    kind: Literal["record_keyframes"]
    lane: str
    turned: list[Turned] = Field(min_length=1, max_length=MOST)
    tolerance: float = Field(0.01, ge=0, le=1)

    def patch(self, document: Document, clock: Clock) -> Patch:
        lane = lane_of(document, self.lane)
        taken = {t.at: t.value for t in self.turned}
        at = sorted(taken)
        values = [lane.fitted(taken[place]) for place in at]
        few = thinned(at, [lane.share(v) for v in values], self.tolerance)
        new: list[Point] = [
            {"at": at[i] - lane.origin, "value": values[i], "ease": "linear"} for i in few
        ]
        first, last = new[0]["at"], new[-1]["at"]
        points = points_of(document, lane)
        kept = [p for p in points if not first <= p["at"] <= last]
        if not points:
            # What was there before the control was taken in hand.
            found = value_of(document, lane)
            before = lane.default if found is None else found
            kept = [{"at": first - 1, "value": before, "ease": "hold"}]
        return set_lane(document, lane, {"keyframes": put(kept, new)})

    def title(self, document: Document) -> str:
        return f"record {lane_of(document, self.lane).label}"


class ThinKeyframes(EditCommand):
    """Remove the keyframes that the others can do without, within a share of the range."""

    kind: Literal["thin_keyframes"]
    keys: Keys = SomeKeys
    tolerance: float = Field(0.02, ge=0, le=1)

    def patch(self, document: Document, clock: Clock) -> Patch:
        patch: Patch = []
        for lane, places in by_lane(document, self.keys):
            points = points_of(document, lane)
            chosen = [p for p in points if p["at"] in places]
            at = [p["at"] for p in chosen]
            shares = [lane.share(p["value"]) for p in chosen]
            held = {p["at"] for p in chosen if p.get("ease") == "hold"}
            kept = {chosen[i]["at"] for i in thinned(at, shares, self.tolerance)} | held
            patch += set_lane(document, lane, {"keyframes": without(points, places - kept)})
        return patch

    def title(self, document: Document) -> str:
        return f"thin out {words(document, self.keys)}"


def _at(point: Point) -> int:
    return int(point["at"])
