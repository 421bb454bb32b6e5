"""End with the picture: how it is made."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from bathyphon.core.errors import Refused
from bathyphon.core.recipes.kit.ending import ring_out
from bathyphon.core.recipes.kit.plan import Plan
from bathyphon.core.recipes.kit.scene import Scene

FARTHEST_S = 2.0
"""No beat is looked for longer before: that would be another place in the music."""


def build(scene: Scene, a: Mapping[str, Any], plan: Plan) -> None:
    """Find where the picture ends, and ring out there."""
    clip, track = scene.clip()
    end = last_moment(scene, a["at"])
    finish = clip["start"] + clip["length"]
    if not clip["start"] < end <= finish:
        name = clip.get("name", clip["id"])
        raise Refused(
            f"“{name}” does not sound at the {a['at']}: it ends at {scene.timecode(finish)}"
        )
    if a["on"] == "before the last beat":
        end = on_a_beat(scene, plan, clip, end)
    ring_out(scene, plan, clip, track["id"], end, a["decay"])


def on_a_beat(scene: Scene, plan: Plan, clip: Mapping[str, Any], end: int) -> int:
    """Just before the last beat that comes no later; the same moment where there is none near."""
    far = round(FARTHEST_S * scene.clock.sample_rate)
    near = [b for b in scene.beats(clip["id"]) if max(clip["start"], end - far) < b <= end]
    if not near:
        plan.said.append("No beat is known shortly before, so it ends exactly there.")
        return end
    last = max(near)
    plan.said.append(f"It ends before the beat at {scene.timecode(last)}.")
    return last


def last_moment(scene: Scene, at: str) -> int:
    """Where it is to stop, in samples."""
    shown = scene.document.get("picture", {}).get("clips", [])
    if not shown:
        raise Refused("this reel has no picture to end with")
    if at == "last cut":
        cuts = scene.cuts()
        if not cuts:
            raise Refused("this reel has no cuts")
        return scene.clock.sample_of_frame(cuts[-1])
    if at == "end of the shot":
        return scene.shot(scene.place.at).end
    return int(max(c["start"] + c["length"] for c in shown))
