"""Applying a command: a new reel, and the patches that lead there and back."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from bathyphon.core.edits.commands import Command
from bathyphon.core.edits.offer import Offer
from bathyphon.core.edits.patch import Draft, Patch
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document, Reel
from bathyphon.core.reel.parse import read_reel


@dataclass(frozen=True)
class Edit:
    """The result of a command.

    Parameters
    ----------
    document : dict
        The new document; it shares unchanged parts with the old one.
    reel : Reel
        The same, typed and checked.
    forward, inverse : list of dict
        JSON Patches from the old document to the new one and back.
    touches : list of str
        Places that the command changes, by id; see :func:`~bathyphon.core.edits.patch.disturbs`.
    title : str
        What the history calls it.
    """

    document: Document
    reel: Reel
    forward: Patch
    inverse: Patch
    touches: list[str]
    title: str


def apply_edit(document: Document, reel: Reel, command: Command) -> Edit:
    """Apply a command to a reel.

    Raises
    ------
    Refused
        If the command addresses what is not there, or its result would break a rule. Nothing is
        changed then.
    """
    forward = command.plan(document, reel)
    draft = Draft(document)
    draft.apply(forward)
    new = draft.document
    return Edit(
        new,
        read_reel(new, (document, reel)) if forward else reel,
        forward,
        draft.inverse(),
        draft.touches(),
        command.title(document),
    )


def apply_edits(document: Document, reel: Reel, commands: Sequence[Command]) -> Edit:
    """Apply several commands as one edit, each to what the one before has made of the reel.

    Raises
    ------
    Refused
        If there is no command, or one of them cannot be carried out. Nothing is changed then.
    """
    if not commands:
        raise Refused("an edit needs at least one command", "commands")
    edits: list[Edit] = []
    for command in commands:
        edits.append(apply_edit(document, reel, command))
        document, reel = edits[-1].document, edits[-1].reel
    if len(edits) == 1:
        return edits[0]
    return Edit(
        document,
        reel,
        [step for edit in edits for step in edit.forward],
        [step for edit in reversed(edits) for step in edit.inverse],
        sorted({place for edit in edits for place in edit.touches}),
        _title(commands, [edit.title for edit in edits]),
    )


def offer_after(commands: Sequence[Command], before: Document, edit: Edit) -> Offer | None:
    """What one may go on to after commands have been applied as one edit.

    Parameters
    ----------
    commands : sequence of Command
    before : dict
        The document before the edit.
    edit : Edit
    """
    offers = (command.offer(before, edit.document, edit.reel.clock) for command in commands)
    return next((offer for offer in offers if offer), None)


def _title(commands: Sequence[Command], titles: list[str]) -> str:
    """One title of several: of what names the edit, what all are called, or the first of them."""
    for command, title in zip(commands, titles, strict=True):
        if command.names_the_edit:
            return title
    others = len(set(titles)) - 1
    if not others:
        return titles[0]
    return f"{titles[0]}, and {others} more change{'s' if others > 1 else ''}"
