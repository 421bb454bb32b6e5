"""Judging reels beside those who play them; a newer state supersedes an older one."""

from __future__ import annotations

import logging
import threading
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any
from uuid import UUID

from cachetools import LRUCache

from bathyphon.core.analysis.kind import Settings
from bathyphon.core.analysis.kinds import KINDS
from bathyphon.core.analysis.spot import spot_of
from bathyphon.core.analysis.tiles import COARSEST, Tiles
from bathyphon.core.engine.graph import Graph
from bathyphon.core.engine.keys import Superseded
from bathyphon.core.engine.live import Live, Playing, Wanted
from bathyphon.core.engine.media import Media
from bathyphon.core.engine.nodes import Node
from bathyphon.core.listen.finding import Finding
from bathyphon.core.listen.judge import judge, survey_of
from bathyphon.core.listen.material import heard_material
from bathyphon.core.listen.survey import Survey
from bathyphon.core.measure.levels import Levels, levels_of
from bathyphon.server.reels.head import Head
from bathyphon.server.sound.engine import ReelEngine, engine_of
from bathyphon.server.sound.media import PreparedMedia

log = logging.getLogger(__name__)
AT_ONCE = 2
MOST_KEPT = 32
BROKEN = "This could not be measured; the server’s log says why."


@dataclass
class Judgement:
    """What is known of a reel's state, while it is being found out and afterwards.

    Parameters
    ----------
    revision : int
    name : tuple
        What it belongs to: the revision and the media's contents.
    share : float
        How much of the work is done.
    done : bool
    failed : str
        Why it could not be done.
    findings, dismissed : tuple of Finding
    levels : Levels or None
        Of the whole mix.
    materials : dict
        What each track sounds like, and how sure that is.
    """

    revision: int
    name: tuple[Any, ...]
    share: float = 0.0
    done: bool = False
    failed: str = ""
    findings: tuple[Finding, ...] = ()
    dismissed: tuple[Finding, ...] = ()
    levels: Levels | None = None
    materials: dict[str, tuple[str, float]] = field(default_factory=dict)


_judgements: LRUCache[UUID, Judgement] = LRUCache(MOST_KEPT)
_lock = threading.Lock()
_turns = threading.BoundedSemaphore(AT_ONCE)


def judgement_of(reel: UUID, head: Head, media: PreparedMedia) -> Judgement:
    """What is known of a reel as it is; if nothing is, finding out begins."""
    name = (head.revision, *(media.digest(m.id) for m in head.reel.media))
    with _lock:
        known = _judgements.get(reel)
        if known is not None and known.name == name:
            return known
        new = _judgements[reel] = Judgement(head.revision, name)
    # Nobody waits for it when the server stops.
    threading.Thread(target=_run, args=(reel, head, media, new), daemon=True).start()
    return new


def survey_for(reel: UUID, head: Head, media: PreparedMedia, wanted: Wanted) -> Survey:
    """A reel as the checks see it, at work beside those who play it."""
    engine = engine_of(reel, head.reel.sample_rate)
    live = _PoliteLive(engine)
    return survey_of(head.document, head.reel, media, live, engine.tallies, wanted)


def _run(reel: UUID, head: Head, media: PreparedMedia, judgement: Judgement) -> None:
    def wanted() -> bool:
        with _lock:
            return _judgements.get(reel) is judgement

    def tell(share: float) -> None:
        judgement.share = 0.5 + 0.5 * share

    with _turns:
        if wanted():
            _judge(reel, head, media, judgement, wanted, tell)


def _judge(
    reel: UUID,
    head: Head,
    media: PreparedMedia,
    judgement: Judgement,
    wanted: Wanted,
    tell: Callable[[float], None],
) -> None:
    try:
        survey = survey_for(reel, head, media, wanted)
        _hear(reel, survey, judgement)
        judgement.levels = levels_of(survey.rows(0, survey.length))
        judgement.share = 0.5
        judged = judge(survey, tell)
        judgement.findings, judgement.dismissed = judged.findings, judged.dismissed
        for track in head.reel.tracks:
            likely = heard_material(survey, track)
            if likely:
                judgement.materials[track.id] = (likely.material, likely.sure)
        judgement.done = True
    except Superseded:
        return
    except Exception:
        log.exception("a reel could not be judged")
        judgement.failed, judgement.done = BROKEN, True


def _hear(reel: UUID, survey: Survey, judgement: Judgement) -> None:
    """Go through the reel once, for its levels and, while its sound is at hand, for its spectrum:
    when somebody looks at two hours of it, they come at once.
    """
    kept = engine_of(reel, survey.rate).columns
    spectrum = Tiles(spot_of(survey, "mix"), KINDS["spectrum"], Settings(), kept)
    seconds = -(-survey.length // survey.rate)
    for second in range(seconds):
        judgement.share = 0.5 * second / seconds
        survey.tallies.second(second)
        spectrum.second(second, int(COARSEST))


class _PoliteLive(Live):
    """What an engine remembers, used by somebody who gives way to those who play."""

    def __init__(self, engine: ReelEngine) -> None:
        self._engine = engine
        known = engine.live
        self.sample_rate, self.budget = known.sample_rate, known.budget
        self.shared = known.shared
        self.store, self.keys = known.store, known.keys
        self._sketch = None

    def playing(self, graph: Graph, media: Media) -> Playing:
        """A graph to be measured."""
        return _Polite(self._engine, self._engine.live, graph, media)


class _Polite(Playing):
    """One state of a reel, worked on between the seconds that are played."""

    def __init__(self, engine: ReelEngine, live: Live, graph: Graph, media: Media) -> None:
        super().__init__(live, graph, media)
        self._engine = engine

    def name(self, index: int, wanted: Wanted = lambda: True, node: Node | None = None) -> str:
        with self._engine.politely(wanted) as going_on:
            return super().name(index, going_on, node)

    def output(self, index: int, wanted: Wanted = lambda: True, node: Node | None = None) -> Any:
        with self._engine.politely(wanted) as going_on:
            return super().output(index, going_on, node)
