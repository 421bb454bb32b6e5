"""Presets over HTTP."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from django.contrib.auth.models import User
from django.http import HttpRequest
from ninja import Body, Field, Query, Router, Schema
from ninja.responses import Status

from bathyphon.core.presets.bodies import Kind
from bathyphon.core.presets.taking import preset_of_bed
from bathyphon.core.presets.using import Target
from bathyphon.core.sounds.made import make
from bathyphon.server.current import account_of
from bathyphon.server.presets import keeping
from bathyphon.server.presets.models import KeptPreset

router = Router(tags=["presets"])
LONGEST_TEXT = 200
Name = Annotated[str, Field(min_length=1, max_length=400)]
Tag = Annotated[str, Field(min_length=1, max_length=60)]
Owner = Annotated[str, Field(max_length=120)]
Sample = Annotated[int, Field(ge=0, le=2**47)]


class SoundKept(Schema):
    """The sound of a bed's preset, with a value for everything that can be set of it."""

    model: str
    settings: dict[str, float]
    seed: int
    gain_db: float


class KeptLine(Schema):
    """A preset of one's own."""

    id: UUID
    kind: Kind
    name: str
    note: str
    tags: list[str]
    effects: list[str]
    favourite: bool
    used: datetime | None
    body: dict[str, Any]
    sound: SoundKept | None = None
    by: str
    shared: list[UUID]

    @staticmethod
    def of(row: KeptPreset, account: User) -> dict[str, Any]:
        """A row as it is answered: ``by`` names the colleague whose it is, empty for one's own;
        ``shared`` are the reels with whose people one's own is shared."""
        mine = row.account_id == account.pk
        document = row.document
        return {
            "id": row.pk, "kind": row.kind, "name": row.name, "note": document.get("note", ""),
            "tags": document.get("tags", []), "effects": keeping.effects_in(document),
            "favourite": mine and row.favourite, "used": row.used if mine else None,
            "body": document["body"], "sound": keeping.sound_in(document),
            "by": "" if mine else row.account.get_username(),
            "shared": [reel.pk for reel in row.shared.all()] if mine else [],
        }  # fmt: skip


class Taken(Schema):
    """A part of a reel that is to be kept."""

    reel: UUID
    kind: Literal["effect", "chain", "treatment", "poses"]
    owner: Owner
    effect: Owner | None = None
    name: Name


class TakenBed(Schema):
    """A computed sound that is to be kept: of a medium, or as it is set."""

    media: UUID | None = None
    model: str = Field("", max_length=80)
    settings: dict[str, float] = Field(default_factory=dict)
    seed: int = Field(1, ge=0, lt=2**31)
    name: str = Field("", max_length=400)
    gain_db: float = Field(0.0, ge=-96, le=24)


class Changed(Schema):
    """What is to be another; the rest stays."""

    name: Name | None = None
    note: str | None = Field(None, max_length=4000)
    tags: list[Tag] | None = Field(None, max_length=40)
    favourite: bool | None = None


class Shared(Schema):
    """With the people of which reel it is shared, or no longer."""

    reel: UUID
    shared: bool


class Replaced(Schema):
    """The part of a reel that a preset is to be like from now on."""

    reel: UUID
    owner: Owner
    effect: Owner | None = None


class UseRequest(Schema):
    """Where a preset is to be used, or only tried."""

    reel: UUID
    owner: Owner | None = None
    tracks: list[Owner] = Field(default_factory=list, max_length=300)
    start: Sample = 0
    end: Sample = 0
    replace: bool = False
    trying: bool = False


class UsedAnswer(Schema):
    """The edits that it stands for, and what was left out."""

    commands: list[dict[str, Any]]
    notes: list[str]


class BroughtIn(Schema):
    """Presets that came from a file, and what is to be said of them."""

    presets: list[KeptLine]
    notes: list[str]


class Which(Schema):
    """Which presets go into a file; all of them without any."""

    ids: list[UUID] = Field(default_factory=list, max_length=keeping.MOST)


@router.get("", response=list[KeptLine])
def presets(
    request: HttpRequest,
    text: Annotated[str, Query(max_length=LONGEST_TEXT)] = "",
    kind: Annotated[str, Query(max_length=20)] = "",
) -> list[dict[str, Any]]:
    """Presets that words may mean, favourites and those used last first, then colleagues'."""
    account = account_of(request)
    return [KeptLine.of(row, account) for row in keeping.listed(account, text, kind)]


@router.post("", response={201: KeptLine})
def take(request: HttpRequest, body: Taken) -> Any:
    """Keep an effect, a chain, a treatment or the poses of a reel."""
    account = account_of(request)
    row = keeping.taken(account, body.reel, body.kind, body.owner, body.name, body.effect)
    return Status(201, KeptLine.of(row, account))


@router.post("bed", response={201: KeptLine})
def take_bed(request: HttpRequest, body: TakenBed) -> Any:
    """Keep a computed sound as it was laid, or as it is set."""
    account = account_of(request)
    made = (
        keeping.made_in(account, body.media)
        if body.media
        else make(body.model, body.settings, body.seed, name=body.name)
    )
    (row,) = keeping.keep(account, preset_of_bed(made, body.name or made.name, body.gain_db))
    return Status(201, KeptLine.of(row, account))


@router.post("file", response=dict[str, Any])
def as_file(request: HttpRequest, body: Which) -> dict[str, Any]:
    """Presets as one file; all of one's own where none are named."""
    account = account_of(request)
    rows = (
        KeptPreset.visible_to(account).filter(pk__in=body.ids)
        if body.ids
        else KeptPreset.owned_by(account)
    )
    return keeping.as_file(rows.order_by("name", "created"))


@router.post("brought-in", response={201: BroughtIn})
def bring_in(request: HttpRequest, body: Body[dict[str, Any]]) -> Any:
    """Keep the presets of a file."""
    account = account_of(request)
    rows, notes = keeping.brought_in(account, body)
    return Status(201, {"presets": [KeptLine.of(row, account) for row in rows], "notes": notes})


@router.patch("{uuid:id}", response=KeptLine)
def change(request: HttpRequest, id: UUID, body: Changed) -> dict[str, Any]:
    """Another name, note or tags, or whether it is a favourite."""
    account = account_of(request)
    return KeptLine.of(keeping.changed(account, id, body.dict(exclude_none=True)), account)


@router.post("{uuid:id}/share", response=KeptLine)
def share(request: HttpRequest, id: UUID, body: Shared) -> dict[str, Any]:
    """Let the people of a reel use a preset, or no longer."""
    account = account_of(request)
    return KeptLine.of(keeping.share(account, id, body.reel, body.shared), account)


@router.post("{uuid:id}/copy", response={201: KeptLine})
def copy(request: HttpRequest, id: UUID) -> Any:
    """Keep one like it as one's own."""
    account = account_of(request)
    return Status(201, KeptLine.of(keeping.copied(account, id), account))


@router.post("{uuid:id}/replace", response=KeptLine)
def replace(request: HttpRequest, id: UUID, body: Replaced) -> dict[str, Any]:
    """Let a preset be as a part of a reel is now."""
    account = account_of(request)
    row = keeping.replaced(account, id, body.reel, body.owner, body.effect)
    return KeptLine.of(row, account)


@router.post("{uuid:id}/use", response=UsedAnswer)
def use(request: HttpRequest, id: UUID, body: UseRequest) -> Any:
    """The edits that put a preset somewhere; whoever asked makes them."""
    target = Target(body.owner, tuple(body.tracks), body.start, body.end, body.replace)
    return keeping.worked_out(account_of(request), id, body.reel, target, body.trying)


@router.delete("{uuid:id}", response={204: None})
def remove(request: HttpRequest, id: UUID) -> Any:
    """Remove a preset; what it was used on stays."""
    keeping.own(account_of(request), id).delete()
    return Status(204, None)
