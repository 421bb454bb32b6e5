"""Sides that answer the cuts: how it is made."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from bathyphon.core.edits.here import Stretch
from bathyphon.core.errors import Refused
from bathyphon.core.recipes.kit.plan import Plan
from bathyphon.core.recipes.kit.scene import Scene

ORDERS = {
    "left, right": (-1, 1),
    "right, left": (1, -1),
    "left, both, right, both": (-1, 0, 1, 0),
}


def build(scene: Scene, a: Mapping[str, Any], plan: Plan) -> None:
    """A pan over the clip with a keyframe at each cut."""
    clip, track = scene.clip()
    within = Stretch(clip["start"], clip["start"] + clip["length"])
    cuts = [scene.clock.sample_of_frame(c) for c in scene.cuts()]
    cuts = [c for c in cuts if within.start < c < within.end]
    if not cuts:
        raise Refused("no cut lies within this clip")
    order = ORDERS[a["order"]]
    over = scene.samples(a["over"])
    keys = [{"at": 0, "value": order[0] * a["wide"], "ease": "hold"}]
    for step, cut in enumerate(cuts, 1):
        value = order[step % len(order)] * a["wide"]
        here = cut - within.start
        if over:
            begins = max(keys[-1]["at"] + 1, here - over)
            keys.append({"at": begins, "value": keys[-1]["value"], "ease": "linear"})
        keys.append({"at": here, "value": value, "ease": "hold"})
    pan = {"kind": "pan", "params": {"position": {"keyframes": keys}}}
    plan.treat(track["id"], within, [pan])
