"""Commands on treatments and their effects."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from bathyphon.core.clock import Clock
from bathyphon.core.edits.commands.base import (
    EditCommand,
    Part,
    append_to,
    given_values,
    label_of,
    name_of,
    set_values,
    words_of,
)
from bathyphon.core.edits.find import at, chain_path, effect_path, track_path, treatment_path
from bathyphon.core.edits.patch import Patch, pointer
from bathyphon.core.edits.spans import Moment, RampLength, resized
from bathyphon.core.effects import EFFECTS
from bathyphon.core.reel import Document


class AddTreatment(EditCommand):
    """Treat a span of a track."""

    kind: Literal["add_treatment"]
    track: str
    id: str
    name: str = Field("", max_length=400)
    start: Moment
    end: Moment
    ramp_in: RampLength = RampLength()
    ramp_out: RampLength = RampLength()
    effects: list[Part] = Field(default_factory=list)

    def patch(self, document: Document, clock: Clock) -> Patch:
        start, end = self.start.of(clock), self.end.of(clock)
        bare = {"start": start, "length": end - start, "ramp_in": {}, "ramp_out": {}}
        span = resized(bare, start, end, self.ramp_in, self.ramp_out, clock)
        treatment = {
            "id": self.id,
            "name": self.name,
            **span,
            "strength": 100,
            "ring_out": "auto",
            "effects": self.effects,
        }
        return append_to(document, track_path(document, self.track), "treatments", treatment)

    def title(self, document: Document) -> str:
        return f"treat {name_of(document, track_path(document, self.track))}"


class SetTreatment(EditCommand):
    """Move, stretch or change a span's treatment."""

    kind: Literal["set_treatment"]
    id: str
    name: str | None = None
    start: Moment | None = None
    end: Moment | None = None
    ramp_in: RampLength | None = None
    ramp_out: RampLength | None = None

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = treatment_path(document, self.id)
        values: Part = {} if self.name is None else {"name": self.name}
        if self.start or self.end or self.ramp_in or self.ramp_out:
            values |= resized(
                at(document, path),
                self.start.of(clock) if self.start else None,
                self.end.of(clock) if self.end else None,
                self.ramp_in,
                self.ramp_out,
                clock,
            )
        return set_values(document, path, values)

    def title(self, document: Document) -> str:
        name = name_of(document, treatment_path(document, self.id))
        if self.start and not self.end:
            return f"move {name}"
        if self.start or self.end:
            return f"stretch {name}"
        if self.ramp_in or self.ramp_out:
            return f"set the ramp of {name}"
        return f"rename {name}"


class RemoveTreatment(EditCommand):
    """Remove a span's treatment."""

    kind: Literal["remove_treatment"]
    id: str

    def patch(self, document: Document, clock: Clock) -> Patch:
        return [{"op": "remove", "path": pointer(*treatment_path(document, self.id))}]

    def title(self, document: Document) -> str:
        return f"remove {name_of(document, treatment_path(document, self.id))}"


class SetChain(EditCommand):
    """Change strength, ring-out or bypass of any chain."""

    kind: Literal["set_chain"]
    owner: str
    strength: float | Part | None = None
    ring_out: Literal["auto", "none"] | int | None = None
    bypass: bool | None = None

    def patch(self, document: Document, clock: Clock) -> Patch:
        values = given_values(self)
        return [*_make_chain(document, self.owner), *_set_in_chain(document, self.owner, values)]

    def title(self, document: Document) -> str:
        return f"set {words_of(given_values(self))} of {_chain_name(document, self.owner)}"


class AddEffect(EditCommand):
    """Put an effect into a chain."""

    kind: Literal["add_effect"]
    owner: str
    effect: Part
    index: int | None = Field(None, ge=0)

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = chain_path(document, self.owner)
        make = _make_chain(document, self.owner)
        effects = [] if make else at(document, path).get("effects", [])
        here = len(effects) if self.index is None else min(self.index, len(effects))
        if not make and "effects" not in at(document, path):
            make = [{"op": "add", "path": pointer(*path, "effects"), "value": []}]
        return [
            *make,
            {"op": "add", "path": pointer(*path, "effects", here), "value": self.effect},
        ]

    def title(self, document: Document) -> str:
        return f"add {label_of(self.effect)} to {_chain_name(document, self.owner)}"


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
        return f"set {', '.join(labels) or 'a value'} of {label_of(effect)}"


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


def _make_chain(document: Document, owner: str) -> Patch:
    path = chain_path(document, owner)
    if owner == "mix" and "mix" not in document:
        return [{"op": "add", "path": "/mix", "value": {"treatment": {"effects": []}}}]
    if path[-1] == "treatment" and "treatment" not in at(document, path[:-1]):
        return [{"op": "add", "path": pointer(*path), "value": {"effects": []}}]
    return []


def _set_in_chain(document: Document, owner: str, values: Part) -> Patch:
    path = chain_path(document, owner)
    if _make_chain(document, owner):
        return [{"op": "add", "path": pointer(*path, k), "value": v} for k, v in values.items()]
    return set_values(document, path, values)


def _chain_name(document: Document, owner: str) -> str:
    if owner == "mix":
        return "the mix"
    path = chain_path(document, owner)
    return name_of(document, path[:-1] if path[-1] == "treatment" else path)
