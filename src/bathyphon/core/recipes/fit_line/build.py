"""Fit this line: how it is made."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from bathyphon.core.errors import Refused
from bathyphon.core.recipes.kit.plan import Plan
from bathyphon.core.recipes.kit.scene import Scene

FASTEST = {"natural": 125.0, "hurried": 180.0}
SLOWEST = {"natural": 85.0, "hurried": 70.0}


def build(scene: Scene, a: Mapping[str, Any], plan: Plan) -> None:
    """The speed at which the line ends where it should; refused where that is too fast or slow."""
    clip, track = scene.clip()
    if clip.get("speed", {}).get("percent", 100.0) != 100.0:
        raise Refused("this clip's speed is set already; reset it first")
    first, last = clip["start"], clip["start"] + clip["length"]
    target = until(scene, a["to"], track, first, last)
    percent = 100 * clip["length"] / (target - first)
    manner = a["manner"]
    if not SLOWEST[manner] <= percent <= FASTEST[manner]:
        raise Refused(
            f"it would take {percent:.0f} % of its speed; {manner} speech goes from "
            f"{SLOWEST[manner]:g} to {FASTEST[manner]:g} %"
        )
    id = clip["id"]
    plan.do(
        {"kind": "fit_clip", "id": id, "edge": "end", "length": target - first},
        [
            {"kind": "reset_speed", "ids": [id]},
            {"kind": "set_clip", "id": id, "start": first, "length": clip["length"]},
        ],
        f"values:clip:{id}|length,speed,start",
    )
    plan.cover(first, max(last, target))
    plan.said.append(f"It plays at {percent:.1f} % of its speed.")


def until(scene: Scene, to: str, track: dict[str, Any], first: int, last: int) -> int:
    """The sample at which the line has to end."""
    if to == "end of the shot":
        return scene.shot(first).end
    if to == "next cut":
        cuts = [scene.clock.sample_of_frame(c) for c in scene.cuts()]
        near = [c for c in cuts if c > first + (last - first) // 2]
        if not near:
            raise Refused("there is no cut after this line")
        return min(near, key=lambda c: abs(c - last))
    later = [c["start"] for c in track.get("clips", []) if c["start"] > first]
    if not later:
        raise Refused("there is no clip after this line on its track")
    return int(min(later))
