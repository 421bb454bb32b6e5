"""Commands on the effects of a chain."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from bathyphon.core.edits.command import EditCommand, Part, label_of, set_values
from bathyphon.core.edits.commands.chains import MOST_EFFECTS, chain_name, make_chain, span_of
from bathyphon.core.edits.find import at, chain_path, effect_path, places_of
from bathyphon.core.edits.patch import Patch, pointer
from bathyphon.core.effects import EFFECTS
from bathyphon.core.reel.model import Document
from bathyphon.core.timing.clock import Clock


class AddEffect(EditCommand):
    """Put an effect into a chain."""

    kind: Literal["add_effect"]
    owner: str
    effect: Part
    index: int | None = Field(None, ge=0)

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = chain_path(document, self.owner)
        make = make_chain(document, self.owner)
        effects = [] if make else at(document, path).get("effects", [])
        here = len(effects) if self.index is None else min(self.index, len(effects))
        if not make and "effects" not in at(document, path):
            make = [{"op": "add", "path": pointer(*path, "effects"), "value": []}]
        return [
            *make,
            {"op": "add", "path": pointer(*path, "effects", here), "value": self.effect},
        ]

    def title(self, document: Document) -> str:
        return f"add {label_of(self.effect)} to {chain_name(document, self.owner)}"


class AddEffects(EditCommand):
    """Put several effects into a chain, one after another: a paste, or a chain copied whole.

    They can take the place of those that are there.
    """

    kind: Literal["add_effects"]
    owner: str
    effects: list[Part] = Field(min_length=1, max_length=MOST_EFFECTS)
    index: int | None = Field(None, ge=0)
    replace: bool = False

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = chain_path(document, self.owner)
        make = make_chain(document, self.owner)
        effects = [] if make else at(document, path).get("effects", [])
        if self.replace and effects:
            place = pointer(*path, "effects")
            return [{"op": "replace", "path": place, "value": list(self.effects)}]
        here = len(effects) if self.index is None else min(self.index, len(effects))
        if not make and "effects" not in at(document, path):
            make = [{"op": "add", "path": pointer(*path, "effects"), "value": []}]
        return [
            *make,
            *(
                {"op": "add", "path": pointer(*path, "effects", here + k), "value": effect}
                for k, effect in enumerate(self.effects)
            ),
        ]

    def title(self, document: Document) -> str:
        names = ", ".join(label_of(effect) for effect in self.effects[:3])
        more = " …" if len(self.effects) > 3 else ""
        if self.replace:
            return f"replace the effects of {chain_name(document, self.owner)} with {names}{more}"
        return f"add {names}{more} to {chain_name(document, self.owner)}"


class ApplyPreset(EditCommand):
    """Set an effect as one of its presets says; what the preset leaves open goes to its default."""

    kind: Literal["apply_preset"]
    owner: str
    id: str
    preset: str

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = effect_path(document, self.owner, self.id)
        effect = at(document, path)
        start, end = span_of(document, self.owner)
        known = EFFECTS[effect["kind"]]
        params = known.preset(self.preset, end - start)
        kept = effect.get("params", {})
        if known.reference and known.reference.to == "track":
            # Whom it listens to is no matter of sound.
            params |= {k: v for k, v in kept.items() if k == known.reference.id}
        return set_values(document, path, {"params": params})

    def title(self, document: Document) -> str:
        effect = at(document, effect_path(document, self.owner, self.id))
        return f"set {label_of(effect)} to “{self.preset}”"


class SetEffect(EditCommand):
    """Set parameters or bypass of an effect; a parameter given as null returns to its default."""

    kind: Literal["set_effect"]
    owner: str
    id: str
    params: Part = Field(default_factory=dict)
    bypass: bool | None = None

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = effect_path(document, self.owner, self.id)
        effect = at(document, path)
        patch: Patch = []
        if self.params and "params" not in effect:
            patch.append({"op": "add", "path": pointer(*path, "params"), "value": {}})
        for id, value in self.params.items():
            place = pointer(*path, "params", id)
            there = id in effect.get("params", {})
            if value is None:
                patch += [{"op": "remove", "path": place}] if there else []
            else:
                patch.append({"op": "replace" if there else "add", "path": place, "value": value})
        if self.bypass is not None:
            patch += set_values(document, path, {"bypass": self.bypass})
        return patch

    def title(self, document: Document) -> str:
        effect = at(document, effect_path(document, self.owner, self.id))
        if self.bypass is not None:
            return f"switch {label_of(effect)} {'off' if self.bypass else 'on'}"
        known = EFFECTS.get(effect["kind"])
        labels = [p.label.lower() for p in known.parameters if p.id in self.params] if known else []
        if known and known.group and known.group.id in self.params:
            labels.append(f"{known.group.label.lower()}s")
        if known and known.reference and known.reference.id in self.params:
            labels.append(known.reference.label.lower())
        return f"set {', '.join(labels) or 'a value'} of {label_of(effect)}"


class ResetEffects(EditCommand):
    """Give an effect, or all of a chain, the values that they come with.

    What an effect names of the reel, and whether it is on, stays.
    """

    kind: Literal["reset_effects"]
    owner: str
    id: str | None = None

    def patch(self, document: Document, clock: Clock) -> Patch:
        places = places_of(document)
        effects = places.effects(self.owner)
        ids = [effect["id"] for effect in effects] if self.id is None else [self.id]
        patch: Patch = []
        for id in ids:
            path = places.effect(self.owner, id)
            effect = at(document, path)
            known = EFFECTS.get(effect["kind"])
            named = known.reference.id if known and known.reference else ""
            kept: Part = dict(known.table.added) if known else {}
            kept |= {k: v for k, v in effect.get("params", {}).items() if k == named}
            if kept != effect.get("params", {}):
                patch += set_values(document, path, {"params": kept})
        return patch

    def title(self, document: Document) -> str:
        if self.id is None:
            return f"reset all effects of {chain_name(document, self.owner)}"
        return f"reset {label_of(at(document, effect_path(document, self.owner, self.id)))}"


class MoveEffect(EditCommand):
    """Move an effect to another place in its chain."""

    kind: Literal["move_effect"]
    owner: str
    id: str
    index: int = Field(ge=0)

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = effect_path(document, self.owner, self.id)
        chain = at(document, path[:-1])
        index = min(self.index, len(chain) - 1)
        return [
            {"op": "remove", "path": pointer(*path)},
            {"op": "add", "path": pointer(*path[:-1], index), "value": chain[path[-1]]},
        ]

    def title(self, document: Document) -> str:
        return f"move {label_of(at(document, effect_path(document, self.owner, self.id)))}"


class RemoveEffect(EditCommand):
    """Take an effect out of its chain."""

    kind: Literal["remove_effect"]
    owner: str
    id: str

    def patch(self, document: Document, clock: Clock) -> Patch:
        return [{"op": "remove", "path": pointer(*effect_path(document, self.owner, self.id))}]

    def title(self, document: Document) -> str:
        return f"remove {label_of(at(document, effect_path(document, self.owner, self.id)))}"
