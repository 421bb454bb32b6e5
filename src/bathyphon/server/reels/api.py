"""Reels over HTTP."""

from __future__ import annotations

from dataclasses import asdict
from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from django.contrib.auth.models import User
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Field, Router, Schema
from ninja.responses import Status

from bathyphon.core.edits.uses import as_template
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import FORMAT, VERSION, Document
from bathyphon.core.timing.clock import parse_rate
from bathyphon.formats.computed import ENDING
from bathyphon.server.current import account_of
from bathyphon.server.media.api import FoundCut
from bathyphon.server.media.models import Media, known_ids
from bathyphon.server.reels import journal
from bathyphon.server.reels.derived import derived
from bathyphon.server.reels.found import found_in
from bathyphon.server.reels.head import head_of, head_since
from bathyphon.server.reels.listing import lines_of
from bathyphon.server.reels.models import JournalEntry, Reel
from bathyphon.server.reels.rights import let_own

router = Router(tags=["reels"])
HISTORY_PAGE = 200
MOST_COMMANDS = 1500
"""That may be one edit: as many clips as one may take hold of."""


class FrameOfStrip(Schema):
    """A frame of a picture, as a place in the strip of its frames."""

    media: UUID
    width: int
    height: int
    x: int
    y: int


class ReelLine(Schema):
    """A reel in the list."""

    id: UUID
    name: str
    revision: int
    changed: datetime
    changed_by: str = ""
    seconds: float = 0.0
    trashed: datetime | None = None
    frame: FrameOfStrip | None = None


class HistoryEntry(Schema):
    """One line of the history."""

    revision: int
    kind: str
    title: str
    made: datetime
    account: str


class SyncOffset(Schema):
    """How far a clip is from its place under the picture; positive is late."""

    samples: int
    frames: float
    ms: float
    eye: Literal["in sync", "unnoticed", "noticed", "disturbing"]
    begins: float
    ends: float


class SpeedFacts(Schema):
    """What a clip's speed means, and its map from the clip's samples to those of its medium."""

    percent: float
    moves: bool
    shift: float
    exact: float
    by_ear: float | None
    source_samples: int
    advice: str
    outline: list[list[float]]


class Derived(Schema):
    """What follows from a document by computation: lengths in samples, treatments by path."""

    length: int
    tails: dict[str, int]
    natural_tails: dict[str, int]
    missing_media: list[str]
    converting: list[str]
    sync: dict[str, SyncOffset]
    speeds: dict[str, SpeedFacts]


class ReelState(Schema):
    """A reel as a window shows it."""

    id: UUID
    revision: int
    document: dict[str, Any]
    derived: Derived
    undo: HistoryEntry | None
    redo: HistoryEntry | None


class NewReel(Schema):
    """A reel to be made."""

    name: str
    frame_rate: str = "25/1"
    sample_rate: int = 48000
    drop_frame: bool = False
    start_timecode: str = "00:00:00:00"


class EditRequest(Schema):
    """Commands that are one edit, made while looking at revision ``base``."""

    edit_id: UUID
    base: int
    commands: list[dict[str, Any]] = Field(min_length=1, max_length=MOST_COMMANDS)


class TurnRequest(Schema):
    """Undo or redo, naming the revision it expects to act upon."""

    edit_id: UUID
    expect: int


class BackRequest(TurnRequest):
    """Back to an edit: all that was done after ``revision`` is undone in one step."""

    revision: int = Field(ge=0)


class OfferLine(Schema):
    """What one may go on to after an edit: what is said, a button's word, and its commands."""

    text: str
    label: str
    commands: list[dict[str, Any]]


class Change(Schema):
    """The revision that an edit led to, and the JSON Patch from the revision before it."""

    revision: int
    patch: list[dict[str, Any]]
    title: str
    derived: Derived
    undo: HistoryEntry | None
    redo: HistoryEntry | None
    offer: OfferLine | None = None


@router.get("", response=list[ReelLine])
def list_reels(request: HttpRequest) -> Any:
    """The account's reels, the latest first."""
    account = account_of(request)
    return lines_of(account, Reel.visible_to(account).order_by("-changed"))


@router.get("/trash", response=list[ReelLine])
def list_trash(request: HttpRequest) -> Any:
    """Reels that were thrown away and can be brought back, the latest first."""
    account = account_of(request)
    return lines_of(account, Reel.trashed_by(account).order_by("-trashed"))


@router.post("", response={201: ReelLine})
def new_reel(request: HttpRequest, data: NewReel) -> Any:
    """Make an empty reel."""
    name = data.name.strip()
    if not name:
        raise Refused("a reel needs a name", "name")
    parse_rate(data.frame_rate)
    document: Document = {
        "format": FORMAT,
        "version": VERSION,
        "name": name,
        "frame_rate": data.frame_rate,
        "drop_frame": data.drop_frame,
        "sample_rate": data.sample_rate,
        "start_timecode": data.start_timecode,
        "media": [],
        "picture": {"clips": [], "cuts": []},
        "markers": [],
        "tracks": [],
        "mix": {"gain_db": 0, "treatment": {"effects": []}},
    }
    return Status(201, journal.create_reel(account_of(request), document))


@router.get("{uuid:id}", response=ReelState)
def get_reel(request: HttpRequest, id: UUID) -> Any:
    """A reel with its document."""
    account = account_of(request)
    reel = get_object_or_404(Reel.visible_to(account), pk=id)
    head = head_of(reel.pk, reel.revision)
    return {
        "id": reel.pk,
        "revision": reel.revision,
        "document": head.document,
        "derived": derived(account, head),
        **_ends(reel),
    }


@router.delete("{uuid:id}", response={204: None})
def trash_reel(request: HttpRequest, id: UUID) -> Any:
    """Put a reel into the trash, from which it can be brought back."""
    account = account_of(request)
    reel = get_object_or_404(Reel.visible_to(account), pk=id)
    let_own(account, reel)
    reel.trashed = timezone.now()
    reel.save(update_fields=["trashed"])
    return Status(204, None)


@router.post("{uuid:id}/restore", response={204: None})
def restore_reel(request: HttpRequest, id: UUID) -> Any:
    """Bring a reel back from the trash."""
    reel = get_object_or_404(Reel.trashed_by(account_of(request)), pk=id)
    reel.trashed = None
    reel.save(update_fields=["trashed"])
    return Status(204, None)


@router.post("{uuid:id}/copy", response={201: ReelLine})
def copy_reel(request: HttpRequest, id: UUID) -> Any:
    """Make another reel that begins as this one is now; its history begins anew."""
    account = account_of(request)
    reel = get_object_or_404(Reel.visible_to(account), pk=id)
    document = {**head_of(reel.pk, reel.revision).document, "name": f"{reel.name[:390]} copy"}
    return Status(201, journal.create_reel(account, document))


@router.post("{uuid:id}/template", response={201: ReelLine})
def as_new_reel(request: HttpRequest, id: UUID) -> Any:
    """Make another reel that asks for files where this one has the account's own.

    Sounds that are computed stay: they are there everywhere.
    """
    account = account_of(request)
    reel = get_object_or_404(Reel.visible_to(account), pk=id)
    document = head_of(reel.pk, reel.revision).document
    own = [m["id"] for m in document.get("media", []) if not m["path"].endswith(ENDING)]
    made = {**as_template(document, own), "name": f"New reel from {reel.name[:380]}"}
    return Status(201, journal.create_reel(account, made))


@router.post("{uuid:id}/edits", response=Change)
def edit_reel(request: HttpRequest, id: UUID, data: EditRequest) -> Any:
    """Apply commands as one edit."""
    account = account_of(request)
    for command in data.commands:
        _refuse_strange_media(account, command)
    entry, offer = journal.edit(account, id, data.edit_id, data.base, data.commands)
    return {**_change(account, entry), "offer": asdict(offer) if offer else None}


@router.post("{uuid:id}/undo", response=Change)
def undo(request: HttpRequest, id: UUID, data: TurnRequest) -> Any:
    """Undo the edit that the window expects to undo."""
    account = account_of(request)
    return _change(account, journal.undo(account, id, data.edit_id, data.expect))


@router.post("{uuid:id}/back", response=Change)
def back(request: HttpRequest, id: UUID, data: BackRequest) -> Any:
    """Go back to an edit."""
    account = account_of(request)
    entry = journal.back_to(account, id, data.edit_id, data.expect, data.revision)
    return _change(account, entry)


@router.post("{uuid:id}/redo", response=Change)
def redo(request: HttpRequest, id: UUID, data: TurnRequest) -> Any:
    """Redo what the window expects to redo."""
    account = account_of(request)
    return _change(account, journal.redo(account, id, data.edit_id, data.expect))


class Found(Schema):
    """Cuts in frames; beats and onsets in samples, by clip."""

    cuts: list[FoundCut]
    beats: dict[str, list[int]]
    onsets: dict[str, list[int]]


@router.get("{uuid:id}/found", response=Found)
def found(request: HttpRequest, id: UUID) -> Any:
    """What has been found in the reel's pictures and sounds."""
    account = account_of(request)
    reel = get_object_or_404(Reel.visible_to(account), pk=id)
    return found_in(account, head_of(reel.pk, reel.revision).reel)


@router.get("{uuid:id}/history", response=list[HistoryEntry])
def history(request: HttpRequest, id: UUID) -> Any:
    """The latest entries of the history, the newest first."""
    reel = get_object_or_404(Reel.visible_to(account_of(request)), pk=id)
    entries = reel.journal.select_related("account").order_by("-revision")[:HISTORY_PAGE]
    return [_line(entry) for entry in entries]


def _refuse_strange_media(account: User, command: dict[str, Any]) -> None:
    """A reel may only refer to media of its account."""
    if command.get("kind") == "add_medium":
        medium = command.get("medium")
        wanted, where = medium.get("id") if isinstance(medium, dict) else None, "medium.id"
    elif command.get("kind") == "relink_medium":
        wanted, where = command.get("to"), "to"
    elif command.get("kind") == "lay_file":
        wanted, where = command.get("media"), "media"
    else:
        return
    if not Media.visible_to(account).filter(pk__in=known_ids([str(wanted)])).exists():
        raise Refused("there is no such medium on the shelf", where)


def _change(account: User, entry: JournalEntry) -> dict[str, Any]:
    reel = entry.reel
    head = head_since(reel.pk, reel.revision)
    # What has changed nothing, or has been said before, is not what undo acts upon.
    newest = entry if entry.pk and entry.revision == reel.revision else None
    return {
        "revision": entry.revision,
        "patch": entry.forward,
        "title": entry.title,
        "derived": derived(account, head),
        **_ends(reel, newest),
    }


def _ends(reel: Reel, newest: JournalEntry | None = None) -> dict[str, Any]:
    undo, redo = journal.history_ends(reel, newest)
    return {"undo": _line(undo), "redo": _line(redo)}


def _line(entry: JournalEntry | None) -> dict[str, Any] | None:
    if entry is None:
        return None
    return {
        "revision": entry.revision,
        "kind": entry.kind,
        "title": entry.title,
        "made": entry.made,
        "account": entry.account.get_username(),
    }
