"""Sounds that are computed, over HTTP: found, listened to, and made media of."""

from __future__ import annotations

from typing import Annotated, Any, Literal
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Field, Query, Router, Schema
from ninja.responses import Status

from bathyphon.core.edits.here import Place, bed_at
from bathyphon.core.sounds import MODELS
from bathyphon.core.sounds.kit.table import LEVEL, LOUDNESS
from bathyphon.core.sounds.shelf import SOUNDS, find_sounds
from bathyphon.server.current import account_of
from bathyphon.server.effects import ParameterTable
from bathyphon.server.media.api import MediaLine
from bathyphon.server.reels.head import seen_by
from bathyphon.server.reels.place import PlaceSchema
from bathyphon.server.sounds.making import heard, longer_one, medium_of

router = Router(tags=["sounds"])
of_reels = Router(tags=["sounds"])
LONGEST_TEXT = 200
LONGEST_S = 8 * 3600


class ModelLine(Schema):
    """A model: what can be set, and where what it does has been published."""

    id: str
    label: str
    kind: Literal["bed", "hit"]
    family: str
    help: str
    source: str
    parameters: list[ParameterTable]


class SoundLine(Schema):
    """A sound that ships: a model with settings of its own."""

    id: str
    model: str
    name: str
    help: str
    settings: dict[str, float]


class SoundShelf(Schema):
    """All that ships, how loud it comes, and the control of its level."""

    loudness: float
    level: ParameterTable
    models: list[ModelLine]
    sounds: list[SoundLine]


class Settings(Schema):
    """A computed sound; a bed lasts for ``seconds``, a hit for as long as it sounds."""

    model: str = Field(max_length=80)
    name: str = Field("", max_length=200)
    settings: dict[str, float] = Field(default_factory=dict)
    seed: int = Field(1, ge=0, lt=2**31)
    seconds: float = Field(60.0, gt=0, le=LONGEST_S)


class MadeLine(Schema):
    """A medium of a computed sound, and how long it will be: it can be laid before it is ready."""

    media: MediaLine
    samples: int


class Wanted(Settings):
    """A computed sound that is to be a medium, at a reel's rate."""

    rate: int = Field(48000, ge=8000, le=192000)


@router.get("", response=SoundShelf)
def shelf(request: HttpRequest) -> dict[str, Any]:
    """Every model and every sound that ships."""
    return {
        "loudness": LOUDNESS,
        "level": ParameterTable.from_orm(LEVEL).dict(),
        "models": [
            {
                "id": m.id,
                "label": m.table.label,
                "kind": m.kind,
                "family": m.table.family,
                "help": m.table.help,
                "source": m.table.source,
                "parameters": [ParameterTable.from_orm(row).dict() for row in m.table.parameters],
            }
            for m in MODELS.values()
        ],
        "sounds": [
            {
                "id": s.id,
                "model": s.model.id,
                "name": s.shipped.name,
                "help": s.shipped.help,
                "settings": s.model.settings(s.shipped.settings),
            }
            for s in SOUNDS.values()
        ],
    }


@router.get("found", response=list[str])
def found(
    request: HttpRequest, text: Annotated[str, Query(max_length=LONGEST_TEXT)] = ""
) -> list[str]:
    """Ids of the sounds that words may mean, the best first."""
    return [sound.id for _, sound in find_sounds(text)]


@router.post("heard.wav")
def listen(request: HttpRequest, body: Settings) -> HttpResponse:
    """The beginning of a sound, as 16-bit WAV: to be listened to by itself."""
    account_of(request)
    response = HttpResponse(
        heard(body.model, body.settings, body.seed, body.seconds), content_type="audio/wav"
    )
    response["Cache-Control"] = "private, max-age=3600"
    return response


class Longer(Schema):
    """A bed's medium, and how long its sound must be."""

    media: UUID
    seconds: float = Field(gt=0, le=LONGEST_S)


@router.post("longer", response={201: MadeLine})
def longer(request: HttpRequest, body: Longer) -> Any:
    """The same sound for longer: what is there of it already stays as it is."""
    medium, samples = longer_one(account_of(request), body.media, body.seconds)
    return Status(201, {"media": medium, "samples": samples})


@router.post("made", response={201: MadeLine})
def made(request: HttpRequest, body: Wanted) -> Any:
    """A medium of a sound; the same settings give the same medium."""
    account = account_of(request)
    medium, samples = medium_of(
        account, body.model, body.settings, body.seed, body.seconds, body.name, body.rate
    )
    return Status(201, {"media": medium, "samples": samples})


class StretchLine(Schema):
    """A stretch of a reel, in samples, and what it is."""

    start: int
    end: int
    of: str


@of_reels.post("{uuid:id}/stretch", response=StretchLine)
def stretch(request: HttpRequest, id: UUID, body: PlaceSchema) -> Any:
    """Where a bed would be laid: what is selected, else the shot in which the playhead is."""
    head = seen_by(account_of(request), id)
    return bed_at(head.document, head.reel.clock, Place(**body.dict()))
