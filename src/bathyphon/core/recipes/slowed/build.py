"""Slowed and spacious: how it is made."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from bathyphon.core.errors import Refused
from bathyphon.core.recipes.kit.plan import Plan
from bathyphon.core.recipes.kit.scene import Scene


def build(scene: Scene, a: Mapping[str, Any], plan: Plan) -> None:
    """Speed that takes the pitch along, and a room on the clip."""
    clip, _ = scene.clip()
    if clip.get("speed", {}).get("percent", 100.0) != 100.0:
        raise Refused("this clip's speed is set already; reset it first")
    id = clip["id"]
    plan.do(
        {
            "kind": "set_speed",
            "ids": [id],
            "percent": a["speed"],
            "pitch": "follow",
            "formants": "follow",
            "material": "music",
        },
        [
            {"kind": "reset_speed", "ids": [id], "all": True},
            {"kind": "set_clip", "id": id, "start": clip["start"], "length": clip["length"]},
        ],
        f"values:clip:{id}|speed",
    )
    space = a["space"] / 100
    if space:
        room = {
            "decay_s": round(1.5 + 5 * space, 2), "size": round(80 + 100 * space),
            "mix": round(48 * space, 1), "low_cut_hz": 150.0, "treble_decay": 0.5,
        }  # fmt: skip
        plan.effects(f"clip:{id}", [{"kind": "reverb", "params": room}])
    plan.cover(clip["start"], clip["start"] + round(clip["length"] * 100 / a["speed"]))
