"""Thicker voice: how it is made."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from bathyphon.core.recipes.kit.plan import Plan
from bathyphon.core.recipes.kit.scene import Scene


def build(scene: Scene, a: Mapping[str, Any], plan: Plan) -> None:
    """A harmony on the clip."""
    clip, _ = scene.clip()
    params: dict[str, Any] = {"voices": voices(a["way"], a["level"]), "material": "voice"}
    if a["way"] == "harmony":
        params |= {"scale": "major", "key": a["key"]}
    plan.effects(f"clip:{clip['id']}", [{"kind": "harmony", "params": params}])
    plan.cover(clip["start"], clip["start"] + clip["length"])


def voices(way: str, level: float) -> list[dict[str, float]]:
    """The other voices: none of them quite in time nor quite in tune."""
    if way == "harmony":
        return [voice(0, level, 30, 15, degree=2), voice(0, level - 4, -30, 24, degree=4)]
    if way == "doubled":
        return [voice(0, level, -70, 18, cents=-8), voice(0, level, 70, 27, cents=8)]
    return [
        voice(0, level, -80, 19, cents=-11), voice(0, level, 80, 31, cents=10),
        voice(0, level - 2, -35, 44, cents=6), voice(0, level - 2, 35, 53, cents=-5),
        voice(12, level - 9, -20, 26), voice(-12, level - 7, 20, 22),
    ]  # fmt: skip


def voice(
    semitones: float, gain_db: float, pan: float, delay_ms: float, **more: float
) -> dict[str, float]:
    """One of them."""
    return {"semitones": semitones, "gain_db": gain_db, "pan": pan, "delay_ms": delay_ms,
            "low_cut_hz": 150.0, **more}  # fmt: skip
