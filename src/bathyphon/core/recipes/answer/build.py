"""Call and answer: how it is made."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from bathyphon.core.recipes.kit.plan import Plan
from bathyphon.core.recipes.kit.scene import Scene

SPEED = 343.2
"""Metres a second in air at 20 °C."""
DROP = 6.0
"""Decibels from one answer to the next, the first as well: each has gone as far again."""


def build(scene: Scene, a: Mapping[str, Any], plan: Plan) -> None:
    """An echo on the clip: there and back, so twice the distance."""
    clip, _ = scene.clip()
    metres = a["metres"]
    # Air and rock take its treble.
    params = {
        "time_ms": round(2000 * metres / SPEED, 1), "repeats": a["times"], "drop_db": DROP,
        "mix": round(50 * 10 ** ((a["level"] + DROP) / 20), 2),
        "high_cut_hz": round(min(12000.0, 9000 * (30 / metres) ** 0.5)), "low_cut_hz": 120.0,
    }  # fmt: skip
    plan.effects(f"clip:{clip['id']}", [{"kind": "echo", "params": params}])
    plan.cover(clip["start"], clip["start"] + clip["length"] + scene.clock.sample_rate * 2)
