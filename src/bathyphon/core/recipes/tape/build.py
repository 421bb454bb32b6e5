"""Tape stop and start: how it is made."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from bathyphon.core.errors import Refused
from bathyphon.core.recipes.kit.ending import ending
from bathyphon.core.recipes.kit.plan import Plan
from bathyphon.core.recipes.kit.scene import Scene


def build(scene: Scene, a: Mapping[str, Any], plan: Plan) -> None:
    """A speed that falls to a standstill at the end, or rises from one at the beginning."""
    clip, _ = scene.clip()
    if clip.get("speed", {}).get("percent", 100.0) != 100.0:
        raise Refused("this clip's speed is set already; reset it first")
    id, first, last = clip["id"], clip["start"], clip["start"] + clip["length"]
    over = round(a["over"] * scene.clock.sample_rate)
    stops = a["way"] == "stop"
    end = ending(scene, clip) if stops else last
    if end - first < over:
        raise Refused(
            f"only {(end - first) / scene.clock.sample_rate:.1f} s of it are there; "
            f"it takes {a['over']:.1f} s"
        )
    lane = f"clip:{id}/percent"
    places = ((end - over, 100.0), (end, 0.0)) if stops else ((first, 0.0), (first + over, 100.0))
    keys = [{"lane": lane, "moment": {"sample": at}, "value": value} for at, value in places]
    way = {"pitch": "follow", "formants": "follow", "material": "music"}
    plan.do(
        {"kind": "set_speed", "ids": [id], **way},
        [
            {"kind": "reset_speed", "ids": [id], "all": True},
            {"kind": "set_clip", "id": id, "start": first, "length": clip["length"]},
        ],
        f"values:clip:{id}|length,speed",
    )
    if end != last:
        plan.commands.append({"kind": "set_clip", "id": id, "length": end - first})
    plan.commands.append({"kind": "put_keyframes", "keys": keys})
    second = scene.clock.sample_rate
    plan.cover(
        max(first, end - over - second) if stops else first, end if stops else first + 2 * over
    )
