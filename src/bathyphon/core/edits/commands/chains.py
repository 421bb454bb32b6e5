"""Setting a chain, and what commands on chains share."""

from __future__ import annotations

from typing import Literal

from bathyphon.core.edits.command import (
    EditCommand,
    Part,
    given_values,
    name_of,
    set_values,
    words_of,
)
from bathyphon.core.edits.find import at, chain_path
from bathyphon.core.edits.patch import Patch, pointer
from bathyphon.core.effects.kit.tails import TAIL_LIMIT_SECONDS
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document
from bathyphon.core.timing.clock import Clock

MOST_EFFECTS = 256
"""Effects that may be added at once."""


class SetChain(EditCommand):
    """Change strength, ring-out or bypass of any chain."""

    kind: Literal["set_chain"]
    owner: str
    strength: float | Part | None = None
    ring_out: Literal["auto", "none"] | int | None = None
    bypass: bool | None = None

    def patch(self, document: Document, clock: Clock) -> Patch:
        values = given_values(self)
        check_ring_out(values.get("ring_out"), clock)
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
        check_ring_out(values["ring_out"], clock)
        return [*make_chain(document, self.owner), *set_in_chain(document, self.owner, values)]

    def title(self, document: Document) -> str:
        return f"let {chain_name(document, self.owner)} ring to the next {self.to}"


def check_ring_out(ring_out: object, clock: Clock) -> None:
    """Refuse a fixed ring-out that is longer than any treatment may ring."""
    most = TAIL_LIMIT_SECONDS * clock.sample_rate
    if isinstance(ring_out, int) and ring_out > most:
        raise Refused(
            f"the ring-out can be {TAIL_LIMIT_SECONDS} s at most, "
            f"not {ring_out / clock.sample_rate:.2f} s",
            "ring_out",
        )


def make_chain(document: Document, owner: str) -> Patch:
    """Patch that makes a chain where there is none yet."""
    path = chain_path(document, owner)
    if owner == "mix" and "mix" not in document:
        return [{"op": "add", "path": "/mix", "value": {"treatment": {"effects": []}}}]
    if path[-1] == "treatment" and "treatment" not in at(document, path[:-1]):
        return [{"op": "add", "path": pointer(*path), "value": {"effects": []}}]
    return []


def set_in_chain(document: Document, owner: str, values: Part) -> Patch:
    """Patch that sets keys of a chain, which may have to be made."""
    path = chain_path(document, owner)
    if make_chain(document, owner):
        return [{"op": "add", "path": pointer(*path, k), "value": v} for k, v in values.items()]
    return set_values(document, path, values)


def chain_name(document: Document, owner: str) -> str:
    """What the history calls a chain's owner."""
    if owner == "mix":
        return "the mix"
    path = chain_path(document, owner)
    return name_of(document, path[:-1] if path[-1] == "treatment" else path)


def span_of(document: Document, owner: str) -> tuple[int, int]:
    """First sample of a chain's owner, and the one after its last, without tails."""
    kind, _, _ = owner.partition(":")
    path = chain_path(document, owner)
    if kind in ("treatment", "clip"):
        part = at(document, path if kind == "treatment" else path[:-1])
        return part["start"], part["start"] + part["length"]
    tracks = document.get("tracks", []) if owner == "mix" else [at(document, path[:-1])]
    ends = [c["start"] + c["length"] for track in tracks for c in track.get("clips", [])]
    return 0, max(ends, default=0)
