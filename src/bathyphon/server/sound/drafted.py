"""Edits that are not committed, and what they are made upon."""

from __future__ import annotations

from collections.abc import Container
from typing import Any, Self
from uuid import UUID

from pydantic import BaseModel, ConfigDict, Field

from bathyphon.server.reels.head import Head
from bathyphon.server.reels.models import JournalEntry

MOST_COMMANDS = 1500
MOST_ON_THEIR_WAY = 100


class OnItsWay(BaseModel):
    """What a hand let go of before, and what may not be in the reel yet: an edit and its id."""

    model_config = ConfigDict(extra="forbid")
    edit_id: UUID
    commands: list[dict[str, Any]] = Field(max_length=MOST_COMMANDS)


class Drafted(BaseModel):
    """What a window's hand has done.

    Parameters
    ----------
    commands : list of dict
        The draft: edits that are not committed.
    edit_id : UUID, optional
        Of the edit that the draft has been sent as: once that is in the reel, there is no draft.
    upon : list of OnItsWay
        What the draft is made upon, as far as it is not in the reel yet.
    """

    model_config = ConfigDict(extra="forbid")
    commands: list[dict[str, Any]] = Field(max_length=MOST_COMMANDS)
    edit_id: UUID | None = None
    upon: list[OnItsWay] = Field([], max_length=MOST_ON_THEIR_WAY)

    @property
    def edits(self) -> list[UUID]:
        """Ids of edits that it speaks of, which may be in the reel by now."""
        return [*(sent.edit_id for sent in self.upon), *([self.edit_id] if self.edit_id else [])]

    def without(self, there: Container[UUID]) -> Self:
        """The same as one draft, without the edits that are in the reel."""
        sent = [c for edit in self.upon if edit.edit_id not in there for c in edit.commands]
        own = [] if self.edit_id in there else self.commands
        return self.model_copy(update={"commands": sent + own, "upon": []})


def recorded(reel: UUID, edits: list[UUID], head: Head) -> set[UUID]:
    """Those of some edits that are in a reel as it was looked up."""
    entries = JournalEntry.objects.filter(reel=reel, edit_id__in=edits)
    there = entries.filter(revision__lte=head.revision)
    return set(there.values_list("edit_id", flat=True))
