"""A reel as the checks see it: its parts, what sounds at each of them, and how loud."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.edits import apply_edits, parse_command
from bathyphon.core.engine.graph import Graph, build_graph
from bathyphon.core.engine.live import Live, Playing
from bathyphon.core.engine.media import Media
from bathyphon.core.engine.nodes import LevelNode, Node, SumNode, TreatedNode
from bathyphon.core.engine.tallies import Kept, Tallies
from bathyphon.core.listen.places import Places, places_of
from bathyphon.core.reel.model import Chain, Clip, Document, Medium, Reel, Track, Treatment


@dataclass(frozen=True)
class Owner:
    """A treatment with what it is on.

    Parameters
    ----------
    name : str
        As commands have it: ``treatment:f1``, ``clip:c1``, ``track:t1`` or ``mix``.
    chain : Chain
    start, stop : int
        Its span, in samples of the reel.
    track : Track or None
        None for the mix.
    node : TreatedNode or None
        Its place in the signal flow; None if it does nothing at all.
    label : str
        What one calls it.
    """

    name: str
    chain: Chain
    start: int
    stop: int
    track: Track | None
    node: TreatedNode | None
    label: str

    @property
    def track_id(self) -> str | None:
        """Id of its track; None for the mix."""
        return self.track.id if self.track else None


@dataclass
class Survey:
    """What the checks look at.

    Parameters
    ----------
    document : dict
    reel : Reel
    media : Media
    graph : Graph
        Of the treated reel.
    live : Live
        What is remembered of the reel's sound.
    kept : mapping
        Tallies that are known.
    set_thresholds : dict
        Values that stand instead of those that the checks bring.
    wanted : callable
        Says whether the result is still wanted.
    """

    document: Document
    reel: Reel
    media: Media
    graph: Graph
    live: Live
    kept: Kept
    set_thresholds: dict[str, float | None] = field(default_factory=dict)
    wanted: Callable[[], bool] = lambda: True

    @cached_property
    def playing(self) -> Playing:
        """The reel at work."""
        return self.live.playing(self.graph, self.media)

    @cached_property
    def tallies(self) -> Tallies:
        """Its levels."""
        return Tallies(self.playing, self.kept, self.wanted)

    @cached_property
    def places(self) -> Places:
        """The nodes of its parts."""
        return places_of(self.graph)

    def after(self, *commands: dict[str, Any]) -> Survey:
        """The reel as it would be after an edit; what is known of its sound is shared.

        Raises
        ------
        Refused
            If the edit cannot be carried out.
        """
        edit = apply_edits(self.document, self.reel, [parse_command(c) for c in commands])
        graph = build_graph(edit.reel, self.media)
        return replace(self, document=edit.document, reel=edit.reel, graph=graph)

    @property
    def rate(self) -> int:
        """Samples a second."""
        return self.reel.sample_rate

    @property
    def length(self) -> int:
        """Samples of the reel, tails included."""
        return self.graph.length

    def rows(self, start: int, stop: int, node: Node | None = None) -> Floats:
        """Levels of a stretch, at a place in the signal flow or as it is heard."""
        return self.tallies.rows(max(0, start), max(0, stop), node)

    def sound(self, start: int, stop: int, node: Node | None = None) -> Floats:
        """Samples of a stretch, shape (2, stop − start)."""
        rate = self.rate
        start, stop = max(0, start), max(0, stop)
        parts = [np.zeros((2, 0))]
        for i in range(start // rate, -(-stop // rate)):
            second = self.playing.output(i, self.wanted, node)
            parts.append(second[:, max(0, start - i * rate) : stop - i * rate])
        return np.concatenate(parts, axis=1)

    def clips(self) -> Iterator[tuple[Track, Clip]]:
        """Clips that are heard."""
        for track in self.reel.tracks:
            if not self.is_heard(track):
                continue
            for clip in track.clips:
                if clip.enabled:
                    yield track, clip

    def is_heard(self, track: Track) -> bool:
        """Whether a track is neither muted nor left out by another one's solo."""
        solo = any(t.solo for t in self.reel.tracks)
        return not track.mute and (track.solo or not solo)

    def owners(self) -> Iterator[Owner]:
        """Treatments that are on, on whatever they are."""
        for t, track in enumerate(self.reel.tracks):
            if not self.is_heard(track):
                continue
            for c, clip in enumerate(track.clips):
                if clip.enabled and clip.treatment.effects:
                    where = f"tracks.{t}.clips.{c}.treatment"
                    yield self._owner(
                        where, f"clip:{clip.id}", clip.treatment, (clip.start, clip.end), track,
                        self.name_of_clip(clip),
                    )  # fmt: skip
            for f, span in enumerate(track.treatments):
                where = f"tracks.{t}.treatments.{f}"
                bounds = span.start, span.start + span.length
                label = self.name_of_treatment(span)
                yield self._owner(where, f"treatment:{span.id}", span, bounds, track, label)
            end = max((clip.end for clip in track.clips), default=0)
            if track.treatment.effects:
                yield self._owner(
                    f"tracks.{t}.treatment", f"track:{track.id}", track.treatment, (0, end), track,
                    f"track {track.name or track.id}",
                )  # fmt: skip
        if self.reel.mix.treatment.effects:
            whole = (0, self.length)
            yield self._owner("mix.treatment", "mix", self.reel.mix.treatment, whole, None, "mix")

    def _owner(
        self,
        where: str,
        name: str,
        chain: Chain,
        bounds: tuple[int, int],
        track: Track | None,
        label: str,
    ) -> Owner:
        node = self.places.treated.get(where)
        return Owner(name, chain, max(0, bounds[0]), bounds[1], track, node, label)

    def track_node(self, track: Track) -> LevelNode:
        """A track after its gain and pan."""
        node = self.graph.tracks[track.id]
        assert isinstance(node, LevelNode)
        return node

    def clip_node(self, clip: Clip) -> Node | None:
        """A clip after its gain and fades, before its treatment."""
        return self.places.sources.get(self._clip_paths.get(clip.id, ""))

    def treated_clip(self, clip: Clip) -> Node | None:
        """A clip after its treatment."""
        path = self._clip_paths.get(clip.id, "")
        return self.places.treated.get(f"{path}.treatment") or self.places.sources.get(path)

    @cached_property
    def _clip_paths(self) -> dict[str, str]:
        return {
            clip.id: f"tracks.{t}.clips.{c}"
            for t, track in enumerate(self.reel.tracks)
            for c, clip in enumerate(track.clips)
        }

    def clips_of(self, track: Track) -> SumNode | None:
        """The clips of a track added up, before what is laid over spans of it."""
        return self.places.sums.get(f"tracks.{self.reel.tracks.index(track)}")

    def medium(self, clip: Clip) -> Medium | None:
        """The file that a clip plays."""
        return next((m for m in self.reel.media if m.id == clip.media), None)

    def threshold(self, id: str, otherwise: float | None) -> float | None:
        """A number to go by, as it is set in the reel or as the check has it."""
        return self.set_thresholds.get(id, otherwise)

    def name_of_clip(self, clip: Clip) -> str:
        """What one calls a clip."""
        medium = self.medium(clip)
        file = medium.path.replace("\\", "/").rsplit("/", 1)[-1] if medium else ""
        return clip.name or file.rsplit(".", 1)[0] or clip.id

    def name_of_treatment(self, span: Treatment) -> str:
        """What one calls a treatment."""
        return span.name or span.id

    def timecode(self, sample: int) -> str:
        """Timecode of a place."""
        return self.reel.clock.timecode_of_sample(max(0, sample), self.reel.start_timecode)
