"""Doing to several parts at once what is done to one of them."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from bathyphon.core.edits.command import EditCommand, Part
from bathyphon.core.edits.commands.chains import SetChain
from bathyphon.core.edits.commands.effects import (
    AddEffect,
    AddEffects,
    ApplyPreset,
    MoveEffect,
    RemoveEffect,
    ResetEffects,
    SetEffect,
)
from bathyphon.core.edits.commands.fades import SetFade
from bathyphon.core.edits.commands.one_clip import SetClip
from bathyphon.core.edits.commands.treatments import SetTreatment
from bathyphon.core.edits.find import places_of
from bathyphon.core.edits.patch import Draft, Patch
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document, Reel

OnEffect = MoveEffect | RemoveEffect | SetEffect | ApplyPreset
Repeated = Annotated[
    SetClip | SetFade | SetTreatment | SetChain | AddEffect | AddEffects | ResetEffects | OnEffect,
    Field(discriminator="kind"),
]
_PLACES = {"start", "length", "source_start"}


class ForAll(EditCommand):
    """Change several parts as one of them is changed.

    ``owners`` are the others, as ``clip:ID`` or ``treatment:ID``. Those that have no such value
    stay as they are: a fade is a clip's, a ramp a treatment's, and what is done to an effect is
    done to the effect of the same kind in each chain; of two Echoes, to the second if it was the
    second.
    """

    kind: Literal["for_all"]
    command: Repeated
    owners: list[str] = Field(max_length=1500)

    def plan(self, document: Document, reel: Reel) -> Patch:
        draft = Draft(document)
        steps: Patch = []
        for command in self._commands(document):
            patch = command.plan(draft.document, reel)
            draft.apply(patch)
            steps += patch
        return steps

    def title(self, document: Document) -> str:
        more = len(self._commands(document)) - 1
        return self.command.title(document) + (f", and {more} more alike" if more else "")

    def _commands(self, document: Document) -> list[EditCommand]:
        others = [_alike(self.command, owner, document) for owner in dict.fromkeys(self.owners)]
        return [self.command, *(command for command in others if command)]


def _alike(command: Repeated, owner: str, document: Document) -> EditCommand | None:
    """The same command for another part; nothing where that has no such value."""
    kind, _, id = owner.partition(":")
    if kind not in ("clip", "treatment"):
        raise Refused(f"“{owner}” is not clip:ID or treatment:ID", "owners")
    if isinstance(command, SetClip) and _PLACES & command.model_fields_set:
        raise Refused("several clips cannot be put at one place", "command")
    if isinstance(command, SetClip | SetFade):
        return _changed(command, id=id) if kind == "clip" and id != command.id else None
    if isinstance(command, SetTreatment):
        if command.start or command.end:
            raise Refused("several treatments cannot be put at one place", "command")
        return _changed(command, id=id) if kind == "treatment" and id != command.id else None
    if owner == command.owner:
        return None
    if isinstance(command, OnEffect) or (isinstance(command, ResetEffects) and command.id):
        effect = _counterpart(document, command.owner, command.id or "", owner)
        return None if effect is None else _changed(command, owner=owner, id=effect)
    if isinstance(command, SetChain | ResetEffects) and not _effects(document, owner):
        return None
    return _changed(command, owner=owner)


def _counterpart(document: Document, owner: str, id: str, other: str) -> str | None:
    """The effect of another chain that is what an effect is in its own: the second Echo, say."""
    kinds = {effect["id"]: effect["kind"] for effect in _effects(document, owner)}
    if id not in kinds:
        return None
    place = [key for key, kind in kinds.items() if kind == kinds[id]].index(id)
    there = [effect["id"] for effect in _effects(document, other) if effect["kind"] == kinds[id]]
    return str(there[place]) if place < len(there) else None


def _effects(document: Document, owner: str) -> list[Part]:
    return places_of(document).effects(owner)


def _changed(command: EditCommand, **values: str) -> EditCommand:
    return command.model_copy(update=values)
