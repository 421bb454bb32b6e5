"""From a reel to its graph."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from threading import Lock

from cachetools import LRUCache

from bathyphon.core.engine.media import Media
from bathyphon.core.engine.nodes import ClipNode, Layers, LevelNode, Node, SumNode, TreatedNode
from bathyphon.core.engine.plan import plan_of
from bathyphon.core.engine.speeds import speed_change_of
from bathyphon.core.errors import Refused
from bathyphon.core.reel.chains import listened_to, references
from bathyphon.core.reel.model import Chain, Clip, Reel, Track
from bathyphon.core.reel.places import ClipPlaces
from bathyphon.core.reel.values import movable_curve
from bathyphon.core.timing.envelopes import Envelope


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
        Samples of ring-out of each treatment that has effects, by its path in the document.
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
        """A track after its gain and pan, muted or not; what is heard of all of them for None.

        Raises
        ------
        Refused
            If there is no such track.
        """
        if id is None:
            return self.out
        if id not in self.tracks:
            raise Refused(f"there is no track “{id}” in it", "track")
        return self.tracks[id]


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


@dataclass
class _Built:
    """What has been built of a track, or of the whole."""

    clips: list[Node] = field(default_factory=list)
    tails: dict[str, int] = field(default_factory=dict)
    natural: dict[str, int] = field(default_factory=dict)
    stateful: bool = False
    lookback: int = 0
    listening: bool = False

    def take(self, other: _Built) -> None:
        """Add what has been built of a part."""
        self.clips += other.clips
        self.tails |= other.tails
        self.natural |= other.natural
        self.stateful |= other.stateful
        self.lookback = max(self.lookback, other.lookback)
        self.listening |= other.listening


@dataclass(frozen=True)
class _Kept:
    """A track as it was built last: as long as it is the same object, so are its nodes."""

    track: Track
    digests: dict[str, str]
    node: Node
    built: _Built


_kept: LRUCache[tuple[int, int, int, bool], _Kept] = LRUCache(96)
_lock = Lock()


class _Builder:
    def __init__(self, reel: Reel, media: Media, treated: bool) -> None:
        self._reel = reel
        self._media = media
        self._treated = treated
        self._rate = reel.sample_rate
        self._into = _Built()
        self._digests: dict[str, str] = {}
        self._tracks: dict[str, Node] = {}

    def build(self) -> Graph:
        reel = self._reel
        for index in self._in_order():
            self._add_track(index)
        tracks = [self._tracks[track.id] for track in reel.tracks]
        solo = any(track.solo for track in reel.tracks)
        heard = tuple(
            node
            for node, track in zip(tracks, reel.tracks, strict=True)
            if not track.mute and (track.solo or not solo)
        )
        out: Node = SumNode("mix", heard)
        # A track's or the mix's end is its last clip's end without tails.
        span = max((c.end for t in reel.tracks for c in t.clips), default=0)
        out = self._whole(out, reel.mix.treatment, "mix.treatment", "mix", span)
        out = LevelNode("mix.level", out, movable_curve(reel.mix.gain_db, "db"), None, self._rate)
        picture = max((c.start + c.length for c in reel.picture.clips), default=0)
        ends = [node.fades for node in (out, *tracks)]
        built = self._into
        return Graph(
            out,
            heard,
            tuple(built.clips),
            built.tails,
            built.natural,
            max([picture, span, *ends]),
            built.stateful,
            built.lookback,
            built.listening,
            self._tracks,
        )

    def _in_order(self) -> list[int]:
        """Places of the tracks, each after those that it listens to.

        No track listens to itself, be it by way of others: the rules of a reel see to that.
        """
        places = {track.id: i for i, track in enumerate(self._reel.tracks)}
        heard = [
            [places[id] for id in sorted(listened_to(track)) if id in places]
            for track in self._reel.tracks
        ]
        order: list[int] = []
        done: set[int] = set()
        waiting = list(reversed(range(len(heard))))
        while waiting:
            at = waiting[-1]
            missing = [i for i in heard[at] if i not in done]
            if missing and at not in done:
                waiting += missing
                continue
            waiting.pop()
            if at not in done:
                done.add(at)
                order.append(at)
        return order

    def _add_track(self, index: int) -> None:
        """A track after gain and pan."""
        track = self._reel.tracks[index]
        whole, digests = self._into, self._digests
        self._into, self._digests = _Built(), {}
        self._tracks[track.id] = self._known_track(index, track)
        whole.take(self._into)
        self._into, self._digests = whole, digests

    def _known_track(self, index: int, track: Track) -> Node:
        """A track as it was built last, if nothing of it has changed since; else a new one."""
        key = (id(track), index, self._rate, self._treated)
        with _lock:
            kept = _kept.get(key)
        if kept is not None and kept.track is track:
            same = all(self._media.digest(m) == d for m, d in kept.digests.items())
            if same:
                self._into.take(kept.built)
                return kept.node
        node = self._new_track(index, track)
        # What listens to others changes with them.
        if not self._into.listening:
            with _lock:
                _kept[key] = _Kept(track, self._digests, node, self._into)
        return node

    def _digest(self, media: str) -> str:
        if media not in self._digests:
            self._digests[media] = self._media.digest(media)
        return self._digests[media]

    def _new_track(self, index: int, track: Track) -> Node:
        where = f"tracks.{index}"
        clips = []
        for c, clip in enumerate(track.clips):
            if clip.enabled:
                node = self._clip(clip, f"{where}.clips.{c}")
                clips.append(node)
                self._into.clips.append(node)
        layers = Layers(f"{where}.treatments", SumNode(where, tuple(clips)))
        for f, treatment in enumerate(track.treatments):
            name = f"{where}.treatments.{f}"
            source = layers.next_source()
            owner = f"treatment:{treatment.id}"
            node = self._treat(source, treatment, name, owner, treatment.start, treatment.length)
            if isinstance(node, TreatedNode):
                layers.add(node)
        out: Node = layers if layers.treated else layers.base
        span = max((clip.end for clip in track.clips), default=0)
        out = self._whole(out, track.treatment, f"{where}.treatment", f"track:{track.id}", span)
        return LevelNode(
            f"{where}.level",
            out,
            movable_curve(track.gain_db, "db"),
            movable_curve(track.pan),
            self._rate,
        )

    def _clip(self, clip: Clip, where: str) -> Node:
        fades = Envelope(
            clip.length,
            clip.fade_in.length,
            clip.fade_in.shape,
            clip.fade_out.length,
            clip.fade_out.shape,
            clip.fade_in.bend,
            clip.fade_out.bend,
        )
        digest = self._digest(clip.media)
        change = None if clip.speed.plain else speed_change_of(clip.speed)
        node = ClipNode(
            where,
            clip.media,
            clip.start,
            clip.length,
            clip.source_start,
            movable_curve(clip.gain_db, "db"),
            fades,
            self._rate,
            change,
            clip.speed.origin,
            self._opening(clip),
        )
        node.digest = digest
        owner = f"clip:{clip.id}"
        return self._treat(
            node, clip.treatment, f"{where}.treatment", owner, clip.start, clip.length
        )

    def _opening(self, clip: Clip) -> int | None:
        """Place in the medium at which a clip begins, where a treatment may want to know it."""
        if clip.speed.plain or not clip.treatment.effects:
            return None
        return ClipPlaces(clip, self._rate).begins()

    def _whole(self, source: Node, chain: Chain, where: str, owner: str, length: int) -> Node:
        return self._treat(source, chain, where, owner, 0, length)

    def _treat(
        self, source: Node, chain: Chain, where: str, owner: str, start: int, length: int
    ) -> Node:
        for medium in references(chain, "media"):
            self._digest(medium)
        plan = plan_of(chain, length, self._rate, self._media, float(self._reel.rate), owner)
        if plan is None:
            return source
        built = self._into
        built.tails[where] = plan.tail
        built.natural[where] = plan.natural_tail
        if not self._treated:
            return source
        built.stateful = True
        built.lookback = max(built.lookback, plan.lookback, plan.around)
        built.listening = built.listening or bool(plan.heard)
        none = SumNode("none", ())
        sides = {id: self._tracks.get(id, none) for id in sorted(plan.heard)}
        return TreatedNode(where, source, plan, start, sides)
