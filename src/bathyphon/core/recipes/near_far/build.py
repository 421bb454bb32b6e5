"""Near to far: how it is made."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

from bathyphon.core.edits.here import Stretch
from bathyphon.core.errors import Refused
from bathyphon.core.recipes.kit.plan import Plan
from bathyphon.core.recipes.kit.scene import Scene

STEPS = 5
"""Keyframes from one end to the other, so that level and treble follow the distance."""


def build(scene: Scene, a: Mapping[str, Any], plan: Plan) -> None:
    """Level, treble and room by distance, over the part of the clip that lies in the shot."""
    clip, track = scene.clip()
    shot = scene.stretch()
    within = Stretch(max(shot.start, clip["start"]), min(shot.end, clip["start"] + clip["length"]))
    if within.end <= within.start:
        raise Refused("the clip does not sound in this shot")
    last = within.end - within.start
    nearest = min(a["begins"], a["ends"], 1.0)

    def moving(value: Any) -> dict[str, Any]:
        keys = []
        for step in range(STEPS):
            share = step / (STEPS - 1)
            metres = a["begins"] * (a["ends"] / a["begins"]) ** share
            keys.append({"at": round(share * last), "value": value(metres)})
        return {"keyframes": keys}

    effects = [
        {"kind": "muffle", "params": {
            "high_cut_hz": moving(lambda m: round(min(20000.0, 20000 / (1 + m / 12)))),
            "level_db": moving(lambda m: round(-12 * math.log10(m / nearest), 2))}},
    ]  # fmt: skip
    if a["room"]:
        wet = moving(lambda m: round(a["room"] / 100 * 70 * m / (m + 8), 1))
        effects.append(
            {"kind": "reverb", "params": {"decay_s": 1.2, "mix": wet, "predelay_ms": 8.0}}
        )
    plan.treat(track["id"], within, effects)
