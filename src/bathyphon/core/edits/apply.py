"""Applying a command: a new reel, and the patches that lead there and back."""

from __future__ import annotations

from dataclasses import dataclass

from bathyphon.core.edits.commands import Command
from bathyphon.core.edits.patch import Draft, Patch
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
