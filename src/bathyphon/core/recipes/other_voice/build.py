"""Another voice: how it is made."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from bathyphon.core.recipes.kit.plan import Plan
from bathyphon.core.recipes.kit.scene import Scene


def build(scene: Scene, a: Mapping[str, Any], plan: Plan) -> None:
    """Effects on the clip, all of them in step with how far it goes."""
    clip, _ = scene.clip()
    plan.effects(f"clip:{clip['id']}", voice(a["voice"], a["far"] / 100))
    plan.cover(clip["start"], clip["start"] + clip["length"])


def voice(which: str, far: float) -> list[dict[str, Any]]:
    """The chain of one of the voices."""
    if which == "deeper":
        return [pitch(-7 * far, -3 * far)]
    if which == "stranger":
        return [
            pitch(-5 * far, 4 * far),
            {"kind": "ring", "params": {"freq_hz": 32.0, "mix": round(35 * far, 1)}},
            {"kind": "chorus", "params": {"rate_hz": 0.4, "swing": 60.0, "mix": 50.0}},
        ]
    if which == "mechanical":
        return [
            {"kind": "pitch", "params": {"tune": 100.0, "scale": "one note"}},
            {"kind": "ring", "params": {"freq_hz": 55.0, "mix": round(40 * far, 1)}},
            {"kind": "crush", "params": {"bits": round(12 - 6 * far), "mix": 60.0}},
        ]
    return [
        pitch(8 * far, 4 * far),
        {"kind": "tremolo", "params": {"rate_hz": 7.0, "swing": round(25 * far, 1)}},
    ]


def pitch(semitones: float, formants: float) -> dict[str, Any]:
    """Pitch and the size of the throat, each by itself."""
    return {"kind": "pitch", "params": {
        "semitones": round(semitones, 2), "formants": "hold",
        "formant_shift": round(formants, 2), "material": "voice"}}  # fmt: skip
