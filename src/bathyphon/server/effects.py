"""The effects' tables and drawings, as the front end reads them."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from typing import Annotated, Any, Literal, TypeVar
from uuid import UUID

import numpy as np
from django.contrib.auth.models import User
from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Schema
from numpy.typing import NDArray
from pydantic import Field, TypeAdapter

from bathyphon.core.effects import EFFECTS
from bathyphon.core.errors import Refused
from bathyphon.core.typed.search import LONGEST, find_effects, not_understood
from bathyphon.server.current import account_of
from bathyphon.server.reels.head import Head, seen_by

router = Router(tags=["effects"])
drawings = Router(tags=["effects"])

T = TypeVar("T")
MOST_HITS = 40


class CountsForLine(Schema):
    """Which choices of another parameter give a parameter its meaning."""

    id: str
    choices: list[str]


class ParameterTable(Schema):
    """One parameter of an effect."""

    id: str
    label: str
    unit: str
    low: float
    high: float
    scale: str
    default: float | None
    neutral: float | None
    follows: str
    help: str
    movable: bool
    whole: bool
    choices: list[str]
    counts_for: CountsForLine | None


class GroupTable(Schema):
    """Parameters that come several times."""

    id: str
    label: str
    most: int
    parameters: list[ParameterTable]


class ReferenceTable(Schema):
    """A setting that names a track or a medium."""

    id: str
    label: str
    to: str
    help: str


class PatternTable(Schema):
    """How an effect's spans are hatched."""

    kind: Literal["lines", "waves", "dots", "rings", "steps", "crossed"]
    angle: float
    spacing: float
    weight: float
    dash: list[float]


class PresetLine(Schema):
    """A starting point."""

    name: str
    help: str
    params: dict[str, Any]


class AdviceSchema(Schema):
    """What to listen for, where to begin, when not to."""

    listen: str
    start: str
    avoid: str


class EffectTable(Schema):
    """One effect."""

    id: str
    label: str
    engages: str
    telling: list[str]
    first: list[str]
    added: dict[str, float | str]
    help: str
    advice: AdviceSchema
    parameters: list[ParameterTable]
    group: GroupTable | None
    reference: ReferenceTable | None
    hatch: PatternTable
    presets: list[PresetLine]


@router.get("", response=list[EffectTable])
def list_effects(request: HttpRequest) -> HttpResponse:
    """Every effect with its parameters."""
    return HttpResponse(_tables(), content_type="application/json; charset=utf-8")


@cache
def _tables() -> bytes:
    """All of them as JSON: they are the same for as long as a process lives."""
    told = [
        {
            **effect.plain(),
            "presets": [
                {"name": p.name, "help": p.help, "params": dict(p.params)} for p in effect.presets
            ],
        }
        for effect in EFFECTS.values()
    ]
    tables = TypeAdapter(list[EffectTable])
    return tables.dump_json(tables.validate_python(told))


class HitLine(Schema):
    """An effect or a preset that a typed line may mean, and what the line sets."""

    effect: str
    preset: str
    label: str
    help: str
    values: dict[str, float | str]
    ramps: dict[str, int]
    said: str
    why: str
    score: float


class HitsAnswer(Schema):
    """What was found, the best first; words that nothing goes by, where nothing was found."""

    hits: list[HitLine]
    unknown: list[str]


@router.get("/found", response=HitsAnswer)
def find(
    request: HttpRequest,
    text: Annotated[str, Query(max_length=LONGEST)] = "",
    frame: Annotated[float | None, Query(gt=0)] = None,
    beat: Annotated[float | None, Query(gt=0)] = None,
) -> dict[str, Any]:
    """Effects and presets that a typed line may mean: “hall 3s”, “echo 86m 18%”.

    ``frame`` and ``beat`` are their milliseconds where one types, as far as they are known.
    """
    lengths = {"f": frame, "beat": beat}
    hits = find_effects(text, {unit: ms for unit, ms in lengths.items() if ms is not None})
    return {"hits": hits[:MOST_HITS], "unknown": [] if hits else not_understood(text)}


class DrawingWanted(Schema):
    """Which effect, at which sample of the reel, and with which parameters instead of its own."""

    owner: str
    effect: str
    at: int = 0
    params: dict[str, Any] = Field(default_factory=dict)
    seen: int | None = None


class AxisData(Schema):
    """One axis."""

    label: str
    unit: str
    low: float
    high: float
    scale: str


class LineData(Schema):
    """A line through points."""

    x: list[float]
    y: list[float]
    style: str
    label: str


class MarkData(Schema):
    """A single event."""

    x: float
    y: float
    label: str
    style: str


class GripData(Schema):
    """A place that can be dragged, and the parameters that it sets."""

    x: float
    y: float
    label: str
    x_parameter: str
    y_parameter: str
    x_factor: float
    y_factor: float


class DrawingData(Schema):
    """What an effect does at one moment."""

    x: AxisData
    y: AxisData
    lines: list[LineData]
    marks: list[MarkData]
    grips: list[GripData]
    facts: list[str]
    round: bool
    units: dict[str, float]
    beneath: DrawingData | None = None


class DrawingAnswer(Schema):
    """A drawing, if there is one of this effect."""

    drawing: DrawingData | None


class WaveWanted(Schema):
    """Around which chain's owner."""

    owner: str
    seen: int | None = None


def _unless_gone(head: Head, seen: int | None, found: Callable[[], T]) -> T | None:
    """What is found; nothing for a window that asks for what has gone since it was drawn."""
    try:
        return found()
    except Refused:
        if seen is None or seen >= head.revision:
            raise
        return None


def _opened(request: HttpRequest, id: UUID) -> tuple[User, Head]:
    """Who asks, and the reel as it is now."""
    account = account_of(request)
    return account, seen_by(account, id)


@drawings.post("{uuid:id}/wave", response=DrawingAnswer)
def draw_wave(request: HttpRequest, id: UUID, data: WaveWanted) -> dict[str, Any]:
    """What treatments do to the level around a chain's owner, its ring-out included."""
    from bathyphon.server.sound.drawing import wave_of

    account, head = _opened(request, id)
    found = _unless_gone(head, data.seen, lambda: wave_of(account, id, head, data.owner))
    return {"drawing": found.plain() if found else None}


@drawings.post("{uuid:id}/drawing", response=DrawingAnswer)
def draw_effect(request: HttpRequest, id: UUID, data: DrawingWanted) -> dict[str, Any]:
    """What an effect of a reel does at a moment."""
    # The engine takes seconds to import: not before the first reel is opened.
    from bathyphon.server.sound.drawing import drawing_of
    from bathyphon.server.sound.media import PreparedMedia

    account, head = _opened(request, id)
    media = PreparedMedia(account, head.reel)
    wanted = (data.owner, data.effect, data.at, data.params)
    found = _unless_gone(head, data.seen, lambda: drawing_of(media, head, *wanted))
    return {"drawing": found.plain() if found else None}


class EffectiveWanted(Schema):
    """Which lane, from which sample of the reel to which, at how many places."""

    lane: str
    start: int = Field(ge=0)
    end: int = Field(ge=1)
    places: int = Field(ge=2, le=4000)
    seen: int | None = None


class EffectiveAnswer(Schema):
    """What really applies, evenly over the stretch; nothing where it is what the lane shows."""

    values: list[float] | None


@drawings.post("{uuid:id}/effective", response=EffectiveAnswer)
def effective(request: HttpRequest, id: UUID, data: EffectiveWanted) -> dict[str, Any]:
    """What a lane's value is, as far as its treatment is engaged."""
    from bathyphon.server.sound.effective import effective_of

    account, head = _opened(request, id)
    wanted = (data.lane, data.start, data.end, data.places)
    values = _unless_gone(head, data.seen, lambda: effective_of(account, head, *wanted))
    return {"values": values}


class PitchWanted(Schema):
    """A stretch of a clip, in samples from its start."""

    clip: str
    start: int
    end: int


class PitchAnswer(Schema):
    """The pitch of a clip as it is heard: notes over its samples, none where there is no pitch."""

    points: list[list[float | None]]
    median: str
    low: str
    high: str
    low_note: float
    high_note: float
    key: str


@drawings.post("{uuid:id}/pitch", response=PitchAnswer)
def pitch(request: HttpRequest, id: UUID, data: PitchWanted) -> dict[str, Any]:
    """The pitch of a clip over time, its middle note and its range."""
    from bathyphon.core.engine.heard_pitch import heard_pitch
    from bathyphon.server.sound.media import PreparedMedia

    account, head = _opened(request, id)
    clips = [c for track in head.reel.tracks for c in track.clips if c.id == data.clip]
    if not clips:
        raise Refused("this clip is no longer there", "clip")
    (clip,) = clips
    if not 0 <= data.start < data.end:
        raise Refused("the stretch must end after it starts", "end")
    media = PreparedMedia(account, head.reel)

    def read(start: int, stop: int) -> NDArray[np.float64]:
        return media.read(clip.media, start, stop).astype(np.float64)

    end = min(data.end, clip.length)
    return vars(heard_pitch(clip, read, min(data.start, end - 1), end, head.reel.sample_rate))
