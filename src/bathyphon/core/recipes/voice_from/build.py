"""A voice from …: how it is made."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from bathyphon.core.recipes.kit.plan import Plan
from bathyphon.core.recipes.kit.scene import Scene

PLACES: dict[str, list[dict[str, Any]]] = {
    "phone": [
        {"kind": "telephone", "params": {"low_hz": 300.0, "high_hz": 3400.0, "drive_db": 4.0}},
    ],
    "radio": [
        {"kind": "telephone", "params": {"low_hz": 420.0, "high_hz": 2800.0, "drive_db": 16.0,
                                         "noise_db": -44.0, "bits": 9.0}},
    ],
    "next room": [
        {"kind": "muffle", "params": {"high_cut_hz": 850.0, "low_cut_hz": 90.0, "level_db": -5.0}},
        {"kind": "reverb", "params": {"decay_s": 0.5, "size": 60.0, "mix": 22.0,
                                      "predelay_ms": 6.0}},
    ],
    "small loudspeaker": [
        {"kind": "telephone", "params": {"low_hz": 550.0, "high_hz": 6000.0, "drive_db": 8.0}},
        {"kind": "reverb", "params": {"decay_s": 0.3, "size": 30.0, "mix": 12.0}},
    ],
    "car": [
        {"kind": "eq", "params": {"bands": [
            {"type": "low_shelf", "freq_hz": 180.0, "gain_db": 4.0},
            {"type": "peak", "freq_hz": 500.0, "gain_db": -3.0, "q": 1.0},
            {"type": "high_shelf", "freq_hz": 4500.0, "gain_db": -6.0}]}},
        {"kind": "reverb", "params": {"decay_s": 0.15, "size": 15.0, "mix": 18.0,
                                      "predelay_ms": 1.0}},
    ],
}  # fmt: skip


def build(scene: Scene, a: Mapping[str, Any], plan: Plan) -> None:
    """The place's effects on the clip, and a level at their end if one is asked for."""
    clip, _ = scene.clip()
    effects = [dict(effect) for effect in PLACES[a["place"]]]
    if a["level"]:
        effects.append({"kind": "gain", "params": {"level_db": a["level"]}})
    plan.effects(f"clip:{clip['id']}", effects)
    plan.cover(clip["start"], clip["start"] + clip["length"])
