"""Effects and treatments that change nothing."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from bathyphon.core.effects import EFFECTS
from bathyphon.core.listen.finding import Check, Cure, Finding
from bathyphon.core.listen.mending import removed
from bathyphon.core.listen.survey import Owner, Survey
from bathyphon.core.reel.model import EffectPart, Keyframes


def find(survey: Survey) -> Iterator[Finding]:
    """Treatments without effect, and effects all of whose values are neutral."""
    for owner in survey.owners():
        on = [e for e in owner.chain.effects if not e.bypass]
        if owner.chain.bypass or not on:
            # Switched off on purpose.
            continue
        why = _why_idle(survey, owner)
        if why:
            yield Finding(
                "idle", owner.start, owner.stop, f"“{owner.label}” does nothing", why, 0.9,
                owner.name, owner.track_id,
                Cure(*removed(owner)),
            )  # fmt: skip
            continue
        for effect in on:
            if _neutral(effect):
                label = EFFECTS[effect.kind].label
                yield Finding(
                    "idle", owner.start, owner.stop, f"{label} of “{owner.label}” does nothing",
                    "All its values are where they change nothing.", 0.9,
                    owner.name, owner.track_id,
                    Cure("Remove it", ({"kind": "remove_effect", "owner": owner.name,
                                        "id": effect.id},)),
                    part=effect.id,
                )  # fmt: skip


def _why_idle(survey: Survey, owner: Owner) -> str:
    if _always(owner.chain.strength, 0.0):
        return "Its strength is 0 % all the time."
    if owner.node is None:
        return "All its values are where they change nothing."
    # What it makes may only be heard in its tail.
    stop = min(max(owner.stop, owner.node.stop), survey.length)
    if stop <= owner.start:
        return ""
    before = survey.rows(owner.start, stop, owner.node.source)
    after = survey.rows(owner.start, stop, owner.node)
    if not before.any() and not after.any():
        return "Nothing plays while it is there."
    if np.array_equal(before, after):
        return "The sound is the same with it and without it."
    return ""


def _neutral(effect: EffectPart) -> bool:
    table = EFFECTS[effect.kind].table
    if _always(effect.params.get("mix", 100.0), 0.0) and table.parameter("mix"):
        return _always(effect.params.get("dry_db", 0.0), 0.0)
    if table.engages != "sweep":
        return False
    if table.group:
        entries = effect.params.get(table.group.id, [])
        return all(
            e.get("type", "peak") in ("peak", "low_shelf", "high_shelf")
            and _always(e.get("gain_db", 0.0), 0.0)
            for e in entries
        )
    glides = [row for row in table.parameters if row.neutral is not None]
    others = {row.id: row.default for row in table.parameters if row.neutral is None}
    if any(id in effect.params and row.choices for id in others if (row := table.parameter(id))):
        return False
    return bool(glides) and all(
        _always(effect.params.get(row.id, row.default), float(row.neutral or 0.0)) for row in glides
    )


def _always(value: object, wanted: float) -> bool:
    if isinstance(value, Keyframes):
        return all(k.value == wanted for k in value.keyframes)
    if isinstance(value, dict):
        return all(k.get("value") == wanted for k in value.get("keyframes", [{}]))
    return value == wanted


CHECK = Check(
    "idle", "Effects that do nothing",
    "An effect whose values are all neutral, or a treatment over silence, is most often left over.",
    find, (), 90,
)  # fmt: skip
