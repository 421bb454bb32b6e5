"""Swell into a hit: how it is made."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from bathyphon.core.edits.here import Stretch
from bathyphon.core.errors import Refused
from bathyphon.core.recipes.kit.plan import Plan
from bathyphon.core.recipes.kit.scene import Scene

HITS = {
    "impact": ("impact", {}, "Deep impact"),
    "knock": ("knock", {"of": 1.0, "pitch": 120.0, "times": 1.0, "hard": 40.0}, "Knock"),
    "thunder": ("thunder", {"distance": 400.0}, "Thunder"),
}
AFTER = 1 / 3
"""How much of the dip is kept after the hit."""
SOON, BACK = 2, 12
"""Frames over which all else gives way under the hit, and comes back as the shot ends."""


def build(scene: Scene, a: Mapping[str, Any], plan: Plan) -> None:
    """A level that rises on every track, a riser that ends at the playhead, the hit, and a lower
    level after it."""
    rate = scene.clock.sample_rate
    at = scene.clock.sample_of_frame(scene.clock.frame_of_sample(scene.place.at))
    start = at - round(a["length"] * rate)
    if start < 0:
        raise Refused(
            f"only {at / rate:.1f} s lie before the playhead; it takes {a['length']:.1f} s"
        )
    within = Stretch(start, at)
    level = {"keyframes": [{"at": 0, "value": -a["depth"], "ease": "linear"},
                           {"at": at - start, "value": 0.0, "ease": "hold"}]}  # fmt: skip
    if a["depth"]:
        for track in scene.sounding(within, beds=True):
            gain = {"kind": "gain", "params": {"level_db": level}}
            plan.treat(track["id"], within, [gain], scene.samples(6))
    if a["depth"] and at < scene.end():
        away = Stretch(at, scene.shot(at).end)
        for track in scene.sounding(away, beds=True):
            if any(abs(c["start"] - at) <= scene.samples(SOON) for c in track.get("clips", [])):
                continue  # What begins there is the hit, or part of it.
            lower = {"kind": "gain", "params": {"level_db": -round(a["depth"] * AFTER, 1)}}
            plan.treat(
                track["id"], away, [lower], scene.samples(SOON), scene.samples(BACK),
                name="After the hit",
            )  # fmt: skip
    settings = {"length": a["length"]}
    plan.hit(start, "riser", settings, "Riser", 3.0)
    if a["hit"] != "none":
        model, given, name = HITS[a["hit"]]
        plan.hit(at, model, given, name, 9.0)
    plan.span = Stretch(start, at + 3 * rate)
