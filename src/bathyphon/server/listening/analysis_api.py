"""Spectrograms, loudness, stereo and the like over HTTP, in tiles."""

from __future__ import annotations

import time
from functools import partial
from typing import Any, Literal
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Field, Query, Router, Schema

from bathyphon.core.errors import Refused
from bathyphon.server.listening.lookup import looked_up

router = Router(tags=["analysis"])
WORK_SECONDS = 0.6
"""After so long what is known so far is answered."""
MOST_POINTS = 400
LAST_STEP = 5
HIGHEST_TILE = 10**7
AxisName = Literal["log", "mel"]
SharpName = Literal["time", "both", "pitch"]
SideName = Literal["after", "before"]


class KindSchema(Schema):
    """One kind of analysis; see :class:`bathyphon.core.analysis.kind.Kind`."""

    id: str
    label: str
    help: str
    finest: int
    fraction: int
    unit: str
    beside: list[str]
    rows: dict[str, list[float] | list[str]]


class TailBand(Schema):
    """How one octave decays: times in seconds, and its curve: samples from the
    tail's beginning, and dB."""

    hz: float
    t20: float | None
    t30: float | None
    at: list[int]
    db: list[float]


class Tail(Schema):
    """How a tail decays, from a sample of the reel on."""

    start: int
    bands: list[TailBand]


class Average(Schema):
    """Mean levels of bands over a stretch in dB, and how much of it they are of."""

    after: list[float]
    before: list[float]
    share: float


class Looked(Schema):
    """What is looked at, and how."""

    of: str = Field(max_length=100)
    axis: AxisName = "log"
    sharp: SharpName = "both"


class LookedTile(Looked):
    """One tile: ``step`` is a place in :data:`bathyphon.core.analysis.tiles.STEPS`."""

    kind: str
    step: int = Field(ge=0, le=LAST_STEP)
    index: int = Field(ge=0, le=HIGHEST_TILE)
    side: SideName = "after"


class LookedStretch(Looked):
    """A stretch in samples."""

    start: int = Field(ge=0, le=2**47)
    stop: int = Field(ge=0, le=2**47)


class LookedTail(Schema):
    """A tail, or a stretch that dies away."""

    of: str = Field(max_length=100)
    start: int | None = Field(None, ge=0, le=2**47)
    stop: int | None = Field(None, ge=0, le=2**47)


@router.get("{uuid:id}/analysis", response=list[KindSchema])
def kinds(request: HttpRequest, id: UUID) -> list[dict[str, Any]]:
    """What can be looked at over time, and what the values of a column stand for."""
    from bathyphon.core.analysis.kind import Settings
    from bathyphon.core.analysis.kinds import KINDS

    _, head, _ = looked_up(request, id)
    rate = head.reel.sample_rate
    return [
        {
            "id": kind.id,
            "label": kind.label,
            "help": kind.help,
            "finest": kind.finest,
            "fraction": kind.fraction,
            "unit": kind.unit,
            "beside": list(kind.beside),
            "rows": {
                "log": kind.rows(Settings("log"), rate),
                "mel": kind.rows(Settings("mel"), rate),
            },
        }
        for kind in KINDS.values()
    ]


@router.get("{uuid:id}/analysis/tile", response={200: None, 304: None})
def tile(request: HttpRequest, id: UUID, asked: Query[LookedTile]) -> HttpResponse:
    """Columns as whole numbers of two bytes, column after column, lowest row first.

    ``X-Share`` says how much of it is known; when asked again, it goes on from there. What has not
    changed is not sent twice (``If-None-Match``).
    """
    from bathyphon.core.analysis.kind import Settings
    from bathyphon.core.analysis.kinds import KINDS
    from bathyphon.core.analysis.tiles import STEPS
    from bathyphon.server.listening.analysing import name_of, tiles_of

    if asked.kind not in KINDS:
        raise Refused(f"there is no analysis “{asked.kind}”", "kind")
    _, head, media = looked_up(request, id)
    settings = Settings(asked.axis, asked.sharp)
    tiles = tiles_of(id, head, media, asked.of, asked.side, asked.kind, settings)
    name = name_of(tiles, asked.step, asked.index)
    if request.headers.get("If-None-Match", "").strip('"') == name:
        return HttpResponse(status=304)
    until = time.monotonic() + WORK_SECONDS
    found = tiles.tile(STEPS[asked.step], asked.index, partial(_late, until))
    answer = HttpResponse(
        found.values.astype("<i2").tobytes(), content_type="application/octet-stream"
    )
    answer["X-Share"] = f"{found.share:.4f}"
    answer["Cache-Control"] = "no-store"
    if found.share >= 1.0:
        answer["ETag"] = f'"{name}"'
    return answer


@router.get("{uuid:id}/analysis/average", response=Average)
def average(request: HttpRequest, id: UUID, asked: Query[LookedStretch]) -> dict[str, Any]:
    """Mean spectrum of a stretch, with what is done to it and before; asked again, it goes on."""
    from bathyphon.core.analysis.average import average_of
    from bathyphon.core.analysis.kind import Settings
    from bathyphon.server.listening.analysing import tiles_of

    _, head, media = looked_up(request, id)
    settings = Settings(asked.axis, asked.sharp)
    stop = max(asked.start + 1, asked.stop)
    found: dict[str, Any] = {"share": 1.0}
    began = time.monotonic()
    sides: tuple[SideName, ...] = ("after", "before")
    for turn, side in enumerate(sides, start=1):
        until = began + 0.5 * turn * WORK_SECONDS
        tiles = tiles_of(id, head, media, asked.of, side, "spectrum", settings)
        end = min(stop, max(1, tiles.spot.survey.length))
        levels, share = average_of(tiles, asked.start, end, partial(_late, until))
        found[side] = [round(level, 2) for level in levels.tolist()]
        found["share"] = min(found["share"], share)
    return found


def _late(until: float) -> bool:
    return time.monotonic() > until


@router.get("{uuid:id}/analysis/tail", response=Tail)
def tail(request: HttpRequest, id: UUID, asked: Query[LookedTail]) -> dict[str, Any]:
    """How what rings on past a clip or a treatment decays, octave by octave."""
    from bathyphon.core.analysis.tail import tail_of, thinned
    from bathyphon.server.listening.analysing import spot_in

    _, head, media = looked_up(request, id)
    survey = spot_in(id, head, media, "mix", "after").survey
    start, bands = tail_of(survey, asked.of, asked.start, asked.stop)
    found = []
    for band in bands:
        at, db = thinned(band, MOST_POINTS)
        known = {"hz": band.centre_hz, "t20": band.t20, "t30": band.t30}
        found.append(known | {"at": at.tolist(), "db": db.tolist()})
    return {"start": start, "bands": found}
