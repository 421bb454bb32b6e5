"""Commands on poses: named sets of values, stamped at moments as linked keyframes."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from bathyphon.core.edits.command import EditCommand, append_to
from bathyphon.core.edits.commands.keyframes import MOST, Keys, SomeKeys, changed, words
from bathyphon.core.edits.commands.lanes import Lane, Point, curve_of, lane_of, points_of, set_lane
from bathyphon.core.edits.commands.pose_runs import first_word, read_run
from bathyphon.core.edits.find import at
from bathyphon.core.edits.patch import Draft, Patch, pointer
from bathyphon.core.edits.points import Row
from bathyphon.core.edits.spans import Moment
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document
from bathyphon.core.timing.clock import Clock

MOST_VALUES = 256
"""Lanes of a pose."""
MOST_POSES = 1000
"""Poses of a run."""


class NewPose(BaseModel):
    """A pose: its name and its lanes' values; a value left open is the present one."""

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True)
    id: str
    name: str = Field(min_length=1, max_length=400)
    values: dict[str, float | None] = Field(min_length=1, max_length=MOST_VALUES)


def _pose_index(document: Document, id: str) -> int:
    for i, pose in enumerate(document.get("poses", [])):
        if pose["id"] == id:
            return i
    raise Refused("this pose is no longer there; it may have been removed", "pose")


def _values(
    document: Document, values: dict[str, float | None], place: int, clock: Clock
) -> dict[str, float]:
    """A pose's values, those left open taken from the document at a sample of the reel."""
    found = {}
    for name, value in values.items():
        lane = lane_of(document, name)
        now = curve_of(document, lane)
        at_place = now.at(place - lane.origin, clock.sample_rate)
        found[name] = lane.fitted(at_place if value is None else value)
    return found


def _relinked(document: Document, id: str, values: dict[str, float] | None) -> Patch:
    """Patch that lets all keyframes of a pose follow new values, or lets them go."""
    before = document["poses"][_pose_index(document, id)].get("values", {})
    patch: Patch = []
    for name in before:
        try:
            lane = lane_of(document, name)
        except Refused:
            continue  # What it named has been removed since.
        points = []
        for p in points_of(document, lane):
            if p.get("pose") != id:
                points.append(p)
            elif values is not None and name in values:
                points.append({**p, "value": values[name]})
            else:
                points.append({k: v for k, v in p.items() if k not in ("pose", "stamp")})
        if points:
            patch += set_lane(document, lane, {"keyframes": points})
    return patch


class AddPose(EditCommand):
    """Save values of lanes under a name."""

    kind: Literal["add_pose"]
    pose: NewPose
    moment: Moment = Moment(sample=0)

    def patch(self, document: Document, clock: Clock) -> Patch:
        if any(p["id"] == self.pose.id for p in document.get("poses", [])):
            raise Refused(f"the id “{self.pose.id}” is used twice", "pose")
        values = _values(document, self.pose.values, self.moment.of(clock), clock)
        pose = {"id": self.pose.id, "name": self.pose.name, "values": values}
        return append_to(document, (), "poses", pose)

    def title(self, document: Document) -> str:
        return f"save the pose “{self.pose.name}”"


class SetPose(EditCommand):
    """Rename a pose or change its values; keyframes stamped with it follow."""

    kind: Literal["set_pose"]
    id: str
    name: str | None = Field(None, min_length=1, max_length=400)
    values: dict[str, float | None] | None = Field(None, max_length=MOST_VALUES)
    moment: Moment = Moment(sample=0)

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = ("poses", _pose_index(document, self.id))
        patch: Patch = []
        if self.name is not None:
            patch.append({"op": "replace", "path": pointer(*path, "name"), "value": self.name})
        if self.values is not None:
            values = _values(document, self.values, self.moment.of(clock), clock)
            patch.append({"op": "replace", "path": pointer(*path, "values"), "value": values})
            patch += _relinked(document, self.id, values)
        return patch

    def title(self, document: Document) -> str:
        name = at(document, ("poses", _pose_index(document, self.id))).get("name", "")
        return f"{'rename' if self.values is None else 'change'} the pose “{name}”"


class RemovePose(EditCommand):
    """Forget a pose; its keyframes stay, no longer linked."""

    kind: Literal["remove_pose"]
    id: str

    def patch(self, document: Document, clock: Clock) -> Patch:
        index = _pose_index(document, self.id)
        return [
            *_relinked(document, self.id, None),
            {"op": "remove", "path": pointer("poses", index)},
        ]

    def title(self, document: Document) -> str:
        name = at(document, ("poses", _pose_index(document, self.id))).get("name", "")
        return f"remove the pose “{name}”"


class StampPoses(EditCommand):
    """Stamp a run of poses on a run of moments, each reached over some frames.

    Parameters
    ----------
    run : list of str
        Ids of poses; beyond its end it begins anew.
    text : str, optional
        The run as it was typed, in place of ids: names of poses, or values of ``lane``, which
        become poses.
    lane : str, optional
    moments : list of Moment
    over : int
        Frames from the value before to the pose.
    when : {"before", "after"}
        Whether the pose is reached at the moment or left for there.
    make : list of NewPose
        Poses that are made first.
    stamp : str
        Begin of the ids by which each column's keyframes know one another.
    """

    kind: Literal["stamp_poses"]
    run: list[str] = Field(default_factory=list, max_length=MOST_POSES)
    text: str = Field("", max_length=10_000)
    lane: str = ""
    moments: list[Moment] = Field(min_length=1, max_length=1000)
    over: int = Field(0, ge=0, le=100_000)
    when: Literal["before", "after"] = "before"
    make: list[NewPose] = Field(default_factory=list, max_length=MOST_POSES)
    stamp: str = Field(min_length=1, max_length=60, pattern=r"^[A-Za-z0-9_.:-]+$")

    def patch(self, document: Document, clock: Clock) -> Patch:
        run, make = self._run(document)
        patch: Patch = []
        draft = Draft(document)
        for pose in make:
            made = AddPose(kind="add_pose", pose=pose).patch(draft.document, clock)
            draft.apply(made)
            patch += made
        document = draft.document
        poses = [document.get("poses", [])[_pose_index(document, id)] for id in run]
        places = sorted({m.of(clock) for m in self.moments})
        columns = [(place, poses[i % len(poses)], i) for i, place in enumerate(places)]
        names = dict.fromkeys(name for pose in poses for name in pose["values"])
        if len(names) * len(columns) > MOST:
            raise Refused(
                f"that would be {len(names) * len(columns)} keyframes; "
                f"{MOST} can be stamped at once",
                "moments",
            )
        for name in names:
            lane = lane_of(document, name)
            mine = [(place, pose, i) for place, pose, i in columns if name in pose["values"]]
            patch += set_lane(
                document, lane, {"keyframes": self._lane(document, lane, mine, clock)}
            )
        return patch

    def _run(self, document: Document) -> tuple[list[str], list[NewPose]]:
        """Ids of the poses in order, and those that are made first."""
        if self.run:
            return self.run, self.make
        lane = lane_of(document, self.lane)
        read = read_run(self.text, document.get("poses", []), lane, self.stamp)
        if len(read.ids) > MOST_POSES:
            raise Refused(f"expected at most {MOST_POSES} poses", "text")
        made = [
            NewPose(id=id, name=name, values={lane.name: value})
            for id, (name, value) in read.made.items()
        ]
        return read.ids, [*self.make, *made]

    def _lane(
        self, document: Document, lane: Lane, columns: list[tuple[int, Point, int]], clock: Clock
    ) -> list[Point]:
        """A lane's keyframes with the columns stamped into it, in order of time."""
        row = Row(points_of(document, lane))
        curve = curve_of(document, lane)
        reached: Point | None = None
        for k, (place, pose, i) in enumerate(columns):
            begin, end = place, place
            if self.when == "before":
                begin = clock.move_by_frames(place, -self.over)
                if k:
                    begin = max(begin, columns[k - 1][0])
            else:
                end = clock.move_by_frames(place, self.over)
                if k + 1 < len(columns):
                    end = min(end, columns[k + 1][0])
            link = {"stamp": f"{self.stamp}.{i}"}
            value = pose["values"][lane.name]
            new: list[Point] = []
            before = curve.at(begin - lane.origin, clock.sample_rate)
            if end == begin and not reached and not row.holds(begin - lane.origin):
                # Without a way to it the pose begins at its moment, not where the last value ended.
                stands = {"at": begin - lane.origin - 1, "value": before, "ease": "hold"}
                new.append({**stands, **link})
            if end > begin:
                start: Point = {"at": begin - lane.origin, "value": before, "ease": "smooth"}
                if reached:
                    # It still stands at the pose before, and follows that one.
                    start |= {"value": reached["value"], "pose": reached["pose"]}
                if not reached or reached["at"] < start["at"]:
                    new.append({**start, **link})
                else:
                    new.append({**reached, "ease": "smooth"})
            arrived = {"at": end - lane.origin, "value": value, "ease": "hold", "pose": pose["id"]}
            reached = {**arrived, **link}
            first = new[0]["at"] if new else reached["at"]
            # Nothing that was there disturbs the way to the pose.
            row.clear(first, reached["at"])
            for point in (*new, reached):
                row.put(point)
        return row.points

    def title(self, document: Document) -> str:
        count = len(self.moments)
        known = {p["id"]: p.get("name", "") for p in document.get("poses", [])}
        known |= {p.id: p.name for p in self.make}
        if count == 1:
            first = known.get(self.run[0], self.run[0]) if self.run else first_word(self.text)
            return f"stamp “{first}”"
        return f"stamp {count} poses"


class UnlinkKeyframes(EditCommand):
    """Let stamped keyframes go: they no longer follow their pose nor move with their column."""

    kind: Literal["unlink_keyframes"]
    keys: Keys = SomeKeys

    def patch(self, document: Document, clock: Clock) -> Patch:
        def free(lane: Lane, point: Point) -> Point:
            return {k: v for k, v in point.items() if k not in ("pose", "stamp")}

        return changed(document, self.keys, free)

    def title(self, document: Document) -> str:
        return f"unlink {words(document, self.keys)}"
