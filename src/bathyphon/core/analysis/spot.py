"""What is looked at: a clip, a treatment, a track or the mix, with what is done to it or before."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.engine.graph import build_graph
from bathyphon.core.engine.nodes import Node
from bathyphon.core.errors import Refused
from bathyphon.core.listen.survey import Survey
from bathyphon.core.measure.tally import COLUMNS, ROWS_A_SECOND

Side = Literal["after", "before"]


@dataclass(frozen=True)
class Spot:
    """A place in the signal flow, listened to.

    Parameters
    ----------
    survey : Survey
    node : Node
    start, stop : int
        Where what is looked at lies, in samples of the reel, without its tail.
    ends : int
        Where its tail ends.
    """

    survey: Survey
    node: Node
    start: int
    stop: int
    ends: int

    @property
    def rate(self) -> int:
        """Samples a second."""
        return self.survey.rate

    def sound(self, start: int, stop: int) -> Floats:
        """Samples of a stretch, shape (2, stop − start); silence before the reel."""
        missing = min(max(0, -start), stop - start)
        found = self.survey.sound(start + missing, stop, self.node)
        return np.pad(found, ((0, 0), (missing, 0))) if missing else found

    def tally(self, start: int, stop: int) -> Floats:
        """Rows of whole seconds from one to another."""
        before = np.zeros((ROWS_A_SECOND * max(0, -start), COLUMNS))
        seconds = range(max(0, start), stop)
        rows = [self.survey.tallies.second(i, self.node) for i in seconds]
        return np.concatenate([before, *rows])

    def name(self, second: int) -> str:
        """Of what sounds in a second: equal names mean equal bits."""
        if second < 0:
            return ""
        return self.survey.playing.name(second, self.survey.wanted, self.node)


def spot_of(survey: Survey, of: str, side: Side = "after") -> Spot:
    """Find what is looked at.

    Parameters
    ----------
    survey : Survey
        Of the treated reel.
    of : str
        ``mix``, ``track:t1``, ``clip:c1`` or ``treatment:f1``.
    side : {"after", "before"}
        With its treatment, or without: a clip and a treatment as they come in, a track and the mix
        without any treatments at all.

    Raises
    ------
    Refused
        If there is no such part.
    """
    kind, _, id = of.partition(":")
    if kind in ("mix", "track"):
        seen = survey if side == "after" else untreated(survey)
        track = id if kind == "track" else None
        if track is not None and track not in seen.graph.tracks:
            raise Refused(f"there is no {of} in the reel", "of")
        node = seen.graph.track(track)
        return Spot(seen, node, 0, seen.length, seen.length)
    if kind == "clip":
        for track_part in survey.reel.tracks:
            for clip in track_part.clips:
                if clip.id == id and clip.enabled:
                    found = survey.treated_clip(clip) if side == "after" else survey.clip_node(clip)
                    treated = survey.treated_clip(clip)
                    if found is not None and treated is not None:
                        return Spot(survey, found, clip.start, clip.end, treated.ends)
    if kind == "treatment":
        return _treatment(survey, of, id, side)
    raise Refused(f"there is no {of} that sounds in the reel", "of")


def untreated(survey: Survey) -> Survey:
    """The same reel without any treatments; what is known of its sound is shared."""
    return replace(survey, graph=build_graph(survey.reel, survey.media, treated=False))


def _treatment(survey: Survey, of: str, id: str, side: Side) -> Spot:
    for t, track in enumerate(survey.reel.tracks):
        for f, span in enumerate(track.treatments):
            if span.id == id:
                start, stop = max(0, span.start), span.start + span.length
                node = survey.places.treated.get(f"tracks.{t}.treatments.{f}")
                if node is None:
                    # One that does nothing is not there: what it is laid over sounds as it did.
                    track_node = survey.graph.tracks[track.id]
                    return Spot(survey, track_node.inputs[0], start, stop, stop)
                return Spot(
                    survey, node if side == "after" else node.source, start, stop, node.stop
                )
    raise Refused(f"there is no {of} in the reel", "of")
