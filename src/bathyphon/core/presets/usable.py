"""As far as this version can use a preset, and what it must leave out."""

from __future__ import annotations

from typing import Any

from bathyphon.core.effects import EFFECTS
from bathyphon.core.errors import Refused
from bathyphon.core.presets.model import Preset
from bathyphon.core.sounds import MODELS

Body = dict[str, Any]


def usable(preset: Preset) -> tuple[Preset, list[str]]:
    """A preset as far as this version can use it, and what it must leave out, in sentences.

    Raises
    ------
    Refused
        Where nothing of it is left.
    """
    body, notes = preset.body, list[str]()
    if preset.kind == "poses":
        return preset, notes
    if preset.kind == "bed":
        known_sound(preset.name, body)
    elif preset.kind == "effect":
        body, notes = _one(preset.name, body)
    elif preset.kind == "recipe":
        body, notes = _recipe(preset.name, body)
    else:
        effects, notes = known_effects(body["effects"])
        body = {**body, "effects": effects}
        if not effects:
            raise _nothing(preset.name)
    return preset.model_copy(update={"body": body}), notes


def known_sound(name: str, body: Body) -> None:
    """Refuse a sound whose model is not here."""
    if body["model"] not in MODELS:
        raise Refused(f"“{name}” needs the sound “{body['model']}”, which is not here")


def known_effects(given: list[Body]) -> tuple[list[Body], list[str]]:
    """Effects with what this version knows of them, and what was left out."""
    kept, notes = [], []
    for effect in given:
        known = EFFECTS.get(effect["kind"])
        if known is None:
            notes.append(f"The effect “{effect['kind']}” is not known here and was left out.")
            continue
        rows = {row.id for row in known.parameters}
        rows |= {known.group.id} if known.group else set()
        rows |= {known.reference.id} if known.reference else set()
        unknown = sorted(set(effect.get("params", {})) - rows)
        if unknown:
            notes.append(f"{known.label} does not know {', '.join(unknown)}; these were left out.")
        params = {k: v for k, v in effect.get("params", {}).items() if k in rows}
        kept.append({**effect, "params": params})
    return kept, notes


def _one(name: str, body: Body) -> tuple[Body, list[str]]:
    kept, notes = known_effects([body])
    if not kept:
        raise _nothing(name)
    return kept[0], notes


def _recipe(name: str, body: Body) -> tuple[Body, list[str]]:
    """A recipe's parts. What is not known stays in its place, for questions name values by it."""
    parts: list[Body] = []
    notes: list[str] = []
    any_known = False
    for part in body["parts"]:
        if part["part"] in ("bed", "hit"):
            known = part["model"] in MODELS
            if not known:
                notes.append(f"The sound “{part['model']}” is not known here and was left out.")
        else:
            given = part.get("effects", [])
            effects, said = known_effects(given)
            notes += said
            at = iter(effects)
            part = {**part, "effects": [next(at) if e["kind"] in EFFECTS else e for e in given]}
            known = bool(effects) or part["part"] == "clip"
        any_known |= known
        parts.append(part)
    if not any_known:
        raise Refused(f"nothing of “{name}” is known here")
    return {**body, "parts": parts}, notes


def _nothing(name: str) -> Refused:
    return Refused(f"no effect of “{name}” is known here")
