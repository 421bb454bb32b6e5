"""Around the head: how it is made."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from bathyphon.core.edits.here import Stretch
from bathyphon.core.errors import Refused
from bathyphon.core.recipes.kit.plan import Plan
from bathyphon.core.recipes.kit.scene import Scene


def build(scene: Scene, a: Mapping[str, Any], plan: Plan) -> None:
    """An orbit over the clip whose azimuth arrives at a place at each marker."""
    clip, track = scene.clip()
    within = Stretch(clip["start"], clip["start"] + clip["length"])
    found = [m["at"] - within.start for m in scene.markers(within)]
    if not found:
        raise Refused(
            "there are no markers within this clip; set one at each place it should reach"
        )
    keys = [{"at": 0, "value": 0.0, "ease": "linear"}]
    rest = a["sharp"] / 100
    for step, here in enumerate(found, 1):
        before = keys[-1]
        if here <= before["at"]:
            continue
        leaves = before["at"] + round(rest * (here - before["at"]))
        if before["at"] < leaves < here:
            keys.append({"at": leaves, "value": before["value"], "ease": "linear"})
        elif leaves >= here:
            before["ease"] = "hold"
        keys.append({"at": here, "value": step * a["turn"], "ease": "linear"})
    orbit = {"kind": "orbit", "params": {
        "azimuth": {"keyframes": keys}, "distance": a["distance"]}}  # fmt: skip
    plan.treat(track["id"], within, [orbit])
