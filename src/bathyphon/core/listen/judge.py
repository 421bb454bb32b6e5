"""Judging a reel: all findings, those that were dismissed apart."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass, replace

from bathyphon.core.engine.graph import build_graph
from bathyphon.core.engine.live import Live
from bathyphon.core.engine.media import Media
from bathyphon.core.engine.tallies import Kept
from bathyphon.core.errors import Refused
from bathyphon.core.listen.finding import Cure, Finding
from bathyphon.core.listen.findings import CHECKS
from bathyphon.core.listen.survey import Survey
from bathyphon.core.reel.model import Document, Reel

_MINUS = re.compile(r"(?<![\w-])-(?=\d)")


@dataclass(frozen=True)
class Judged:
    """What was found in a reel.

    Parameters
    ----------
    findings : tuple of Finding
        In order of time.
    dismissed : tuple of Finding
        Those that somebody has dismissed with a word.
    """

    findings: tuple[Finding, ...]
    dismissed: tuple[Finding, ...]


def survey_of(
    document: Document,
    reel: Reel,
    media: Media,
    live: Live | None = None,
    kept: Kept | None = None,
    wanted: Callable[[], bool] = lambda: True,
) -> Survey:
    """A reel as the checks see it, by the thresholds that are set in it."""
    return Survey(
        document,
        reel,
        media,
        build_graph(reel, media),
        live or Live(reel.sample_rate),
        {} if kept is None else kept,
        dict(reel.listening.thresholds),
        wanted,
    )


def _curable(survey: Survey, finding: Finding) -> Finding:
    """Without a cure that the reel, as it is, does not allow."""

    def allowed(cure: Cure | None) -> Cure | None:
        try:
            if cure:
                survey.after(*cure.commands)
        except Refused:
            return None
        return cure

    first, second = allowed(finding.cure), allowed(finding.instead)
    return replace(finding, cure=first or second, instead=second if first else None)


def _typeset(finding: Finding) -> Finding:
    """With a minus before numbers, as everywhere on the screen."""
    title, why = (_MINUS.sub("−", text) for text in (finding.title, finding.why))
    return replace(finding, title=title, why=why)


def judge(survey: Survey, tell: Callable[[float], None] = lambda share: None) -> Judged:
    """Run all checks.

    Parameters
    ----------
    survey : Survey
    tell : callable
        Told which share of the work is done.

    Raises
    ------
    Superseded
        If the result is not wanted any more.
    """
    found: list[Finding] = []
    for k, check in enumerate(CHECKS):
        found += [_typeset(_curable(survey, finding)) for finding in check.find(survey)]
        tell((k + 1) / len(CHECKS))
    found.sort(key=lambda f: (f.start, f.stop, f.kind))
    words = {d.finding for d in survey.reel.listening.dismissed}
    return Judged(
        tuple(f for f in found if f.id not in words),
        tuple(f for f in found if f.id in words),
    )
