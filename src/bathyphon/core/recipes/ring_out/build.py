"""Ring out here: how it is made."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from bathyphon.core.recipes.kit.ending import ending, ring_out
from bathyphon.core.recipes.kit.plan import Plan
from bathyphon.core.recipes.kit.scene import Scene


def build(scene: Scene, a: Mapping[str, Any], plan: Plan) -> None:
    """Trim the clip, fade it, and send what is left into a room."""
    clip, track = scene.clip()
    end = ending(scene, clip, on_beats=True)
    ring_out(scene, plan, clip, track["id"], end, a["decay"], (a["capture"], a["fade"]))
