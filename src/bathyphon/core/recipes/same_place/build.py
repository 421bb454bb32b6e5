"""As if in the same place: how it is made."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from bathyphon.core.recipes.kit.plan import Plan
from bathyphon.core.recipes.kit.scene import Scene
from bathyphon.core.recipes.same_place.fit import matched

WHAT = {
    "room, tone and level": {"room", "tone", "level"},
    "room and tone": {"room", "tone"},
    "room alone": {"room"},
    "tone alone": {"tone"},
}
FAINT_DB = 0.2
"""Less than this is not worth an effect."""


def build(scene: Scene, a: Mapping[str, Any], plan: Plan) -> None:
    """A reverb, an equaliser and a level at the end of what the clip has already."""
    clip, _ = scene.clip()
    other = scene.other_clip(clip)
    rate = scene.clock.sample_rate
    match = matched(scene.heard(clip["id"]), scene.heard(other["id"]), rate)
    what, share = WHAT[a["what"]], a["strength"] / 100
    effects: list[dict[str, Any]] = []
    if "room" in what and match.reverb and share:
        mix = round(match.reverb["mix"] * share, 1)
        effects.append({"kind": "reverb", "params": {**match.reverb, "mix": mix}})
    if "tone" in what:
        bands = [{**band, "gain_db": round(band["gain_db"] * share, 2)} for band in match.bands]
        if any(abs(band["gain_db"]) > FAINT_DB for band in bands):
            effects.append({"kind": "eq", "params": {"bands": bands}})
    if "level" in what and abs(match.level_db * share) > FAINT_DB:
        level = max(-24.0, min(24.0, match.level_db * share))
        effects.append({"kind": "gain", "params": {"level_db": round(level, 2)}})
    plan.effects(f"clip:{clip['id']}", effects)
    plan.cover(clip["start"], clip["start"] + clip["length"])
    middle = match.decay.get(1000.0)
    if "room" in what and match.reverb and middle:
        plan.said.append(f"The other clip's room rings for {middle:.1f} s in the middle.")
    elif "room" in what:
        plan.said.append("There is as much room on this clip already.")
