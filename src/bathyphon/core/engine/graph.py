"""From a reel to its graph."""

from __future__ import annotations

from dataclasses import dataclass, replace

from bathyphon.core.curves import Envelope
from bathyphon.core.engine.chain import plan_of
from bathyphon.core.engine.media import Media
from bathyphon.core.engine.nodes import ClipNode, LevelNode, Node, SumNode, TreatedNode
from bathyphon.core.errors import Refused
from bathyphon.core.reel import Chain, Clip, Reel, Track
from bathyphon.core.rules import movable_curve


@dataclass(frozen=True)
class Graph:
    """The signal flow of a reel.

    Parameters
    ----------
    out : Node
        What is heard.
    stems : tuple of Node
        Tracks after gain and pan, in document order; they add up to the mix's input.
    clips : tuple of Node
        Clips with their treatments; any of them may be computed side by side.
    tails : dict
        Samples of ring-out of each treatment, by its path in the document.
    natural_tails : dict
        The same, as they would be with ``ring_out`` ``auto``.
    length : int
        Samples of the reel, tails included.
    stateful : bool
        Whether sound at one place depends on what came before it.
    lookback : int
        Most samples that any treatment is fed from before its span.
    listening : bool
        Whether some track listens to another.
    tracks : dict
        Every track after gain and pan by its id, those too that are not heard.
    """

    out: Node
    stems: tuple[Node, ...]
    clips: tuple[Node, ...]
    tails: dict[str, int]
    natural_tails: dict[str, int]
    length: int
    stateful: bool
    lookback: int
    listening: bool
    tracks: dict[str, Node]

    def track(self, id: str | None) -> Node:
        """A track after its gain and pan, muted or not; what is heard of all of them for None."""
        return self.out if id is None else self.tracks[id]


def build_graph(reel: Reel, media: Media, treated: bool = True) -> Graph:
    """Build the graph of a reel.

    Parameters
    ----------
    reel : Reel
    media : Media
        Gives the digests that the clips' results depend on.
    treated : bool
        Without treatments if false; the length stays that of the treated reel.
    """
    full = _Builder(reel, media, treated=True).build()
    if treated:
        return full
    bare = _Builder(reel, media, treated=False).build()
    return replace(
        bare,
        tails=full.tails,
        natural_tails=full.natural_tails,
        length=full.length,
        stateful=False,
        lookback=0,
        listening=False,
    )


class _Builder:
    def __init__(self, reel: Reel, media: Media, treated: bool) -> None:
        self._reel = reel
        self._media = media
        self._treated = treated
        self._rate = reel.sample_rate
        self._clips: list[Node] = []
        self._tails: dict[str, int] = {}
        self._natural: dict[str, int] = {}
        self._stateful = False
        self._lookback = 0
        self._tracks: dict[str, Node] = {}
        self._listening = False

    def build(self) -> Graph:
        reel = self._reel
        tracks = [self._track(track.id) for track in reel.tracks]
        solo = any(track.solo for track in reel.tracks)
        heard = tuple(
            node
            for node, track in zip(tracks, reel.tracks, strict=True)
            if not track.mute and (track.solo or not solo)
        )
        out: Node = SumNode("mix", heard)
        # A track's or the mix's end is its last clip's end without tails.
        span = max((c.end for t in reel.tracks for c in t.clips), default=0)
        out = self._whole(out, reel.mix.treatment, "mix.treatment", span)
        out = LevelNode("mix.level", out, movable_curve(reel.mix.gain_db), None, self._rate)
        picture = max((c.start + c.length for c in reel.picture.clips), default=0)
        ends = [node.ends for node in (out, *tracks)]
        return Graph(
            out,
            heard,
            tuple(self._clips),
            self._tails,
            self._natural,
            max([picture, span, *ends]),
            self._stateful,
            self._lookback,
            self._listening,
            self._tracks,
        )

    def _track(self, id: str) -> Node:
        """A track after gain and pan; those that it listens to are built before it.

        No track listens to itself, be it by way of others: the rules of a reel see to that.
        """
        if id in self._tracks:
            return self._tracks[id]
        index = next((i for i, t in enumerate(self._reel.tracks) if t.id == id), None)
        if index is None:
            return SumNode(f"tracks.{id}", ())
        self._tracks[id] = self._new_track(index, self._reel.tracks[index])
        return self._tracks[id]

    def _new_track(self, index: int, track: Track) -> Node:
        where = f"tracks.{index}"
        clips = []
        for c, clip in enumerate(track.clips):
            if clip.enabled:
                node = self._clip(clip, f"{where}.clips.{c}")
                clips.append(node)
                self._clips.append(node)
        out: Node = SumNode(where, tuple(clips))
        for f, treatment in enumerate(track.treatments):
            name = f"{where}.treatments.{f}"
            out = self._treat(out, treatment, name, treatment.start, treatment.length)
        span = max((clip.end for clip in track.clips), default=0)
        out = self._whole(out, track.treatment, f"{where}.treatment", span)
        return LevelNode(
            f"{where}.level",
            out,
            movable_curve(track.gain_db),
            movable_curve(track.pan),
            self._rate,
        )

    def _clip(self, clip: Clip, where: str) -> Node:
        if not clip.speed.plain:
            raise Refused(
                "this version plays clips at 100 % and at their own pitch only", f"{where}.speed"
            )
        fades = Envelope(
            clip.length,
            clip.fade_in.length,
            clip.fade_in.shape,
            clip.fade_out.length,
            clip.fade_out.shape,
        )
        node = ClipNode(
            where,
            clip.media,
            clip.start,
            clip.length,
            clip.source_start,
            movable_curve(clip.gain_db),
            fades,
            self._rate,
        )
        node.digest = self._media.digest(clip.media)
        return self._treat(node, clip.treatment, f"{where}.treatment", clip.start, clip.length)

    def _whole(self, source: Node, chain: Chain, where: str, length: int) -> Node:
        return self._treat(source, chain, where, 0, length)

    def _treat(self, source: Node, chain: Chain, where: str, start: int, length: int) -> Node:
        plan = plan_of(chain, length, self._rate, self._media)
        if plan is None:
            self._tails[where] = self._natural[where] = 0
            return source
        self._tails[where] = plan.tail
        self._natural[where] = plan.natural_tail
        if not self._treated:
            return source
        self._stateful = True
        self._lookback = max(self._lookback, plan.lookback)
        self._listening = self._listening or bool(plan.heard)
        sides = {id: self._track(id) for id in sorted(plan.heard)}
        return TreatedNode(where, source, plan, start, sides)
