"""Levels, findings and steps of levelling over HTTP."""

from __future__ import annotations

import time
from dataclasses import asdict
from typing import Annotated, Any, Literal
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Query, Router, Schema

from bathyphon.server.listening.lookup import looked_up
from bathyphon.server.listening.states import Heard, asked_for

router = Router(tags=["listening"])
WORK_SECONDS = 1.0
"""After so long what is known so far is answered."""
MOST_SIDES = 8
Sample = Field(ge=0, le=2**47)


class LevelsSchema(Schema):
    """What a stretch measures; see :class:`bathyphon.core.measure.levels.Levels`."""

    loudness: float | None
    range: float | None
    momentary: float | None
    short_term: float | None
    true_peak: float | None
    peak: float | None
    rms: float | None
    correlation: float | None
    full: int


class SideLevels(LevelsSchema):
    """Levels of one side, and how much of the stretch they cover."""

    share: float


class LevelsRequest(Schema):
    """States of a reel to be measured over one stretch, each as it is heard or one track of it."""

    sides: list[Heard] = Field(min_length=1, max_length=MOST_SIDES)
    start: int = Sample
    stop: int = Sample
    track: str | None = None


class CureSchema(Schema):
    """One edit that mends something."""

    label: str
    commands: list[dict[str, Any]]


class FindingSchema(Schema):
    """Something that sounds wrong; see :class:`bathyphon.core.listen.finding.Finding`."""

    id: str
    kind: str
    start: int
    stop: int
    title: str
    why: str
    sure: float
    of: str
    track: str | None
    cure: CureSchema | None
    instead: CureSchema | None


class Carried(Schema):
    """What a track sounds like."""

    material: Literal["speech", "music", "bed"]
    sure: float


class Judgement(Schema):
    """What was found in a reel, as far as it is known."""

    revision: int
    share: float
    done: bool
    failed: str
    findings: list[FindingSchema]
    dismissed: list[FindingSchema]
    levels: LevelsSchema | None
    materials: dict[str, Carried]


class ThresholdSchema(Schema):
    """A number that a check goes by."""

    id: str
    label: str
    unit: str
    value: float | None
    least: float
    most: float
    help: str
    source: str


class CheckSchema(Schema):
    """One kind of finding."""

    kind: str
    label: str
    help: str
    thresholds: list[ThresholdSchema]


@router.get("checks", response=list[CheckSchema])
def checks(request: HttpRequest) -> list[dict[str, Any]]:
    """What reels are looked through for, and by which numbers."""
    from bathyphon.core.listen.findings import CHECKS

    return [
        {
            "kind": check.kind,
            "label": check.label,
            "help": check.help,
            "thresholds": [asdict(t) for t in check.thresholds],
        }
        for check in CHECKS
    ]


@router.post("{uuid:id}/levels", response=list[SideLevels])
def levels(request: HttpRequest, id: UUID, body: LevelsRequest) -> list[dict[str, Any]]:
    """Levels over a stretch; what takes longer than a second is gone on with when asked again."""
    from bathyphon.core.measure.levels import levels_of
    from bathyphon.server.sound.engine import Asked, engine_of

    account, head, media = looked_up(request, id)
    engine = engine_of(id, head.reel.sample_rate)
    until = time.monotonic() + WORK_SECONDS
    found = []
    for k, heard in enumerate(body.sides):
        past, its = asked_for(account, id, head, media, heard)
        side = "treated" if heard.treated else "untreated"
        asked = Asked(past, its, side, heard.commands)
        mine = until - WORK_SECONDS * (len(body.sides) - 1 - k) / len(body.sides)
        rows, share = engine.rows(asked, body.track, body.start, body.stop, mine)
        found.append(asdict(levels_of(rows)) | {"share": share})
    return found


class CutTail(Schema):
    """A tail that an end would cut: of what, how loud it is there, and where it has faded away."""

    of: str
    label: str
    level: float
    ends: int


@router.get("{uuid:id}/ringing", response=list[CutTail])
def ringing(request: HttpRequest, id: UUID, at: Annotated[int, Query(ge=0, le=2**47)]) -> Any:
    """Tails that are still heard at a sample: whoever ends an export there cuts them."""
    from bathyphon.core.listen.ringing import ringing_at
    from bathyphon.server.listening.judging import survey_for

    _, head, media = looked_up(request, id)
    survey = survey_for(id, head, media, lambda: True)
    return [
        {"of": r.owner.name, "label": r.owner.label, "level": r.level, "ends": r.ends}
        for r in ringing_at(survey, at)
    ]


class StepRequest(Schema):
    """A level to be set in one step; see :mod:`bathyphon.core.listen.levelling`."""

    step: Literal[
        "match_untreated",
        "match_part",
        "match_neighbour",
        "to_loudness",
        "normalise",
        "set_alike",
        "dip_under_speech",
        "even_out",
        "raise_quiet",
    ]
    of: list[str] = Field(min_length=1, max_length=1000)
    other: str | None = None
    value: float | None = Field(None, ge=-70, le=60)


@router.post("{uuid:id}/level", response=CureSchema)
def level(request: HttpRequest, id: UUID, body: StepRequest) -> dict[str, Any]:
    """The edit that sets a level in one step: it is worked out here, and made by whoever asked."""
    from bathyphon.server.listening.steps import step_of

    _, head, media = looked_up(request, id)
    return asdict(step_of(id, head, media, body.step, body.of, body.other, body.value))


@router.get("{uuid:id}/findings", response=Judgement)
def findings(request: HttpRequest, id: UUID) -> dict[str, Any]:
    """What sounds wrong in a reel, as far as it is known: asking begins the work."""
    from bathyphon.server.listening.judging import judgement_of

    _, head, media = looked_up(request, id)
    known = judgement_of(id, head, media)
    return {
        "revision": known.revision,
        "share": known.share,
        "done": known.done,
        "failed": known.failed,
        "findings": [_plain(f) for f in known.findings],
        "dismissed": [_plain(f) for f in known.dismissed],
        "levels": asdict(known.levels) if known.levels else None,
        "materials": {
            id: {"material": material, "sure": sure}
            for id, (material, sure) in known.materials.items()
        },
    }


def _plain(finding: Any) -> dict[str, Any]:
    return asdict(finding) | {"id": finding.id}
