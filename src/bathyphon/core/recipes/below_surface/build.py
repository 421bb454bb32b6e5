"""Below the surface: how it is made."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from bathyphon.core.edits.here import Stretch
from bathyphon.core.edits.spans import RAMP_IN, RAMP_OUT
from bathyphon.core.recipes.kit.plan import Plan
from bathyphon.core.recipes.kit.scene import Scene

ABOVE = {
    "waves": ("waves", {"size": 8.0, "period": 2.4, "distance": 3.0}, "Lapping water"),
    "brook": ("brook", {}, "Brook"),
    "wind": ("wind", {"strength": 30.0, "whistle": 0.0}, "Wind"),
    "rain": ("rain", {}, "Rain"),
}


def build(scene: Scene, a: Mapping[str, Any], plan: Plan) -> None:
    """A muffle on every track that sounds there, and beds from cut to cut."""
    within = scene.stretch()
    deep = a["depth"] / 100
    muffle = {
        "high_cut_hz": round(1500 * 0.16**deep), "level_db": round(-2 - 4 * deep, 1),
        "wobble": 18.0, "wobble_hz": 0.35, "width": round(100 - 40 * deep),
    }  # fmt: skip
    ramp_in, ramp_out = scene.samples(RAMP_IN), scene.samples(RAMP_OUT)
    for track in scene.sounding(within):
        plan.treat(track["id"], within, [{"kind": "muffle", "params": muffle}], ramp_in, ramp_out)
    if not plan.commands:
        plan.said.append("Nothing sounds there yet, so only beds are laid.")
    if a["bed"] == "bed":
        settings = {"depth": a["depth"], "bubbles": round(30 * (1 - deep))}
        plan.bed(within, "underwater", settings, "Under water", -3.0)
    if a["above"] != "none":
        model, given, name = ABOVE[a["above"]]
        for shot in beside(scene, within):
            plan.bed(shot, model, given, name, -6.0)
    plan.span = within


def beside(scene: Scene, within: Stretch) -> list[Stretch]:
    """The shots before and after."""
    shots = []
    if within.start > 0:
        shots.append(Stretch(scene.shot(within.start - 1).start, within.start))
    if within.end < scene.end():
        shots.append(Stretch(within.end, scene.shot(within.end).end))
    return shots
