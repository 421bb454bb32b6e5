"""Freeze the last moment: how it is made."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from bathyphon.core.edits.here import Stretch
from bathyphon.core.errors import Refused
from bathyphon.core.recipes.kit.ending import ending
from bathyphon.core.recipes.kit.plan import Plan
from bathyphon.core.recipes.kit.scene import Scene

RELEASE_S = 1.5
"""In which it goes when it has stood long enough."""


def build(scene: Scene, a: Mapping[str, Any], plan: Plan) -> None:
    """A room that is fed the last frames, and lets nothing in or out afterwards."""
    clip, track = scene.clip()
    end = ending(scene, clip)
    length, capture = end - clip["start"], scene.samples(a["capture"])
    if length < capture or capture < 1:
        raise Refused(f"only {scene.frames(length):.0f} frames are left before it ends")
    fade = min(length, scene.samples(3))
    plan.set_clip(clip["id"], length=length, fade_out={"length": fade, "shape": "equal_power"})
    held = {"keyframes": [{"at": 0, "value": 0, "ease": "hold"},
                          {"at": max(1, capture - 1), "value": 1, "ease": "hold"}]}  # fmt: skip
    room = {
        "decay_s": 20.0, "size": 150.0, "predelay_ms": 0.0, "mix": 50.0, "freeze": held,
        "level_db": 6.0, "dry_db": -6.0, "low_cut_hz": 60.0,
    }  # fmt: skip
    # A room is let go at its treatment's end: that is where the moment passes.
    rate = scene.clock.sample_rate
    hold = round(a["hold"] * rate)
    within = Stretch(end - capture, end + hold)
    id = plan.treat(track["id"], within, [{"kind": "reverb", "params": room}])
    fade_out = {
        "kind": "set_chain",
        "owner": f"treatment:{id}",
        "ring_out": round(RELEASE_S * rate),
    }
    plan.commands.append(fade_out)
    plan.span = Stretch(max(0, end - 2 * rate), end + hold + rate)
