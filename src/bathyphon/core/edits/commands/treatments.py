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
    name_of,
    set_values,
    words_of,
)
from bathyphon.core.edits.commands.chains import chain_name, make_chain, set_in_chain, span_of
from bathyphon.core.edits.find import at, track_path, treatment_path
from bathyphon.core.edits.patch import Patch, pointer
from bathyphon.core.edits.spans import Moment, RampLength, resized
from bathyphon.core.errors import Refused
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
        return [*make_chain(document, self.owner), *set_in_chain(document, self.owner, values)]

    def title(self, document: Document) -> str:
        return f"set {words_of(given_values(self))} of {chain_name(document, self.owner)}"


class RingOutTo(EditCommand):
    """Let a chain ring out to the next cut or marker after its end, fading into it."""

    kind: Literal["ring_out_to"]
    owner: str
    to: Literal["cut", "marker"]

    def patch(self, document: Document, clock: Clock) -> Patch:
        _, end = span_of(document, self.owner)
        if self.to == "cut":
            cuts = document.get("picture", {}).get("cuts", [])
            places = [clock.sample_of_frame(frame) for frame in cuts]
        else:
            places = [marker["at"] for marker in document.get("markers", [])]
        ahead = min((p for p in places if p > end), default=None)
        if ahead is None:
            raise Refused(f"there is no {self.to} after the end of this treatment", "to")
        values = {"ring_out": ahead - end}
        return [*make_chain(document, self.owner), *set_in_chain(document, self.owner, values)]

    def title(self, document: Document) -> str:
        return f"let {chain_name(document, self.owner)} ring to the next {self.to}"
