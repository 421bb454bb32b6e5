"""Memory or dream: how it is made."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from bathyphon.core.errors import Refused
from bathyphon.core.recipes.kit.plan import Plan
from bathyphon.core.recipes.kit.scene import Scene


def build(scene: Scene, a: Mapping[str, Any], plan: Plan) -> None:
    """The same chain on every track that sounds there."""
    within = scene.stretch()
    effects = chain(a["way"], a["far"] / 100)
    ramp = scene.samples(a["ramp"])
    for track in scene.sounding(within):
        plan.treat(track["id"], within, effects, ramp, ramp, a["way"].capitalize())
    if not plan.commands:
        raise Refused("nothing sounds there that could be treated")


def chain(which: str, far: float) -> list[dict[str, Any]]:
    """What a memory or a dream does to a sound."""
    if which == "memory":
        bands = [
            {"type": "low_cut", "freq_hz": round(80 + 320 * far)},
            {"type": "high_cut", "freq_hz": round(9000 - 5500 * far)},
        ]
        return [
            {"kind": "eq", "params": {"bands": bands}},
            {"kind": "reverb", "params": {"decay_s": round(1 + 2.5 * far, 2),
                                          "mix": round(20 + 35 * far), "predelay_ms": 20.0}},
        ]  # fmt: skip
    return [
        {"kind": "chorus", "params": {"rate_hz": 0.25, "swing": round(30 + 50 * far),
                                      "mix": round(25 + 25 * far)}},
        {"kind": "reverb", "params": {"decay_s": round(2 + 6 * far, 2), "size": 170.0,
                                      "mix": round(25 + 35 * far), "predelay_ms": 60.0,
                                      "width": 150.0}},
    ]  # fmt: skip
