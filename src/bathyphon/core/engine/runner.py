"""Computing a graph: chunk by chunk, from checkpoints, remembering what it has computed.

The output of a node in chunk *i* is a pure function of its state before the chunk, of its inputs
and of the parameters that touch the chunk. Its key (:mod:`~bathyphon.core.engine.keys`) is the hash
of all of these, so results and states can be kept and found again whatever was edited elsewhere.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from threading import RLock
from weakref import WeakKeyDictionary

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.effects.kit.processor import State
from bathyphon.core.engine.edges import begins
from bathyphon.core.engine.keys import Keys, Superseded
from bathyphon.core.engine.levels import clip_sound, levelled, opens
from bathyphon.core.engine.media import Media
from bathyphon.core.engine.nodes import ClipNode, LevelNode, Node, TreatedNode, heard_from
from bathyphon.core.engine.place import NEAR, Place, next_piece
from bathyphon.core.engine.running import Hear, Probe, Running
from bathyphon.core.engine.steps import Steps, run
from bathyphon.core.engine.store import Store
from bathyphon.core.timing.envelopes import Envelope


@dataclass
class Runner:
    """Yields chunks of a graph's nodes.

    Parameters
    ----------
    media : Media
    grid : int
        Samples of a chunk; chunk *i* starts at sample ``i · grid``.
    store : Store, optional
        Remembers outputs and states across runners. Without one, only the latest chunks and the
        states where the treatments stand are kept, as a render in order needs.
    piece : int, optional
        Block that treatments are given at first, and larger ones where they are quick; between
        pieces ``wanted`` is asked.
    wanted : callable, optional
        Returns false when the result is no longer wanted.
    probe : callable, optional
        Told the id of an effect and the size of each block it receives.
    keys : Keys, optional
        Keys that have been worked out for nodes that other graphs share.
    clock : callable, optional
        Seconds that go by. With one, what is quick is given larger pieces, and of its states fewer
        are kept; the sound is the same.
    """

    media: Media
    grid: int
    store: Store | None = None
    piece: int = 0
    wanted: Callable[[], bool] = lambda: True
    probe: Probe | None = None
    keys: Keys | None = None
    clock: Callable[[], float] | None = None
    _recent: dict[tuple[Node, int], Floats] = field(default_factory=dict)
    # Neither holds on to nodes that no graph has any more.
    _places: WeakKeyDictionary[Node, Place] = field(default_factory=WeakKeyDictionary)
    _locks: WeakKeyDictionary[Node, RLock] = field(default_factory=WeakKeyDictionary)

    def __post_init__(self) -> None:
        self._names = self.keys or Keys(self.grid)

    def output(self, node: Node, chunk: int) -> Floats:
        """A node's chunk, float64 of shape (2, grid); not to be written to.

        Raises
        ------
        Superseded
            If ``wanted`` said no on the way.
        """
        return run(self._output(node, chunk))

    def stretch(self, node: Node, start: int, stop: int) -> Floats:
        """A node's samples ``start … stop − 1``, whatever chunks they lie in."""
        return run(self._stretch(node, start, stop))

    def known(self, node: Node, chunk: int) -> Floats | None:
        """A node's chunk if it is remembered; nothing is worked out for that."""
        key = self._names.known_output(node, chunk)
        return self.store.output(key) if self.store and key else None

    def known_state(self, node: TreatedNode, chunk: int) -> tuple[State, ...] | None:
        """What a treatment remembers after a chunk, if that is known."""
        key = self._names.known_state(node, chunk)
        return self.store.state(key) if self.store and key else None

    def treated(self) -> list[Node]:
        """The treatments that have been at work."""
        return list(self._places)

    def key(self, node: Node, chunk: int) -> bytes:
        """Hash of all that determines a node's chunk."""
        return self._names.output(node, chunk, self.wanted)

    def forget_before(self, chunk: int, lookback: int = 0) -> None:
        """Drop what a render in order no longer needs, but for ``lookback`` samples."""
        self.forget_outside(chunk - -(-lookback // self.grid))

    def forget_outside(self, first: int, last: int | None = None) -> None:
        """Drop all chunks but those from ``first`` to ``last``."""
        for node, i in list(self._recent):
            if i < first or (last is not None and i > last):
                del self._recent[node, i]

    def _range(self, chunk: int) -> tuple[int, int]:
        return chunk * self.grid, (chunk + 1) * self.grid

    def _output(self, node: Node, chunk: int) -> Steps[Floats]:
        node = heard_from(node, *self._range(chunk))
        recent = self._recent.get((node, chunk))
        if recent is not None:
            return recent
        # Several threads may ask for the same; a treatment goes through its chunks in order.
        with self._locks.setdefault(node, RLock()):
            recent = self._recent.get((node, chunk))
            if recent is None:
                recent = yield self._found(node, chunk)
            return recent

    def _found(self, node: Node, chunk: int) -> Steps[Floats]:
        """Remembered or computed."""
        if not self.store:
            out: Floats = yield self._compute(node, chunk)
            self._recent[node, chunk] = out
            return out
        if not self.wanted():
            raise Superseded
        key = self.key(node, chunk)
        kept = self.store.output(key)
        if kept is None:
            kept = yield self._compute(node, chunk)
            self.store.keep_output(key, kept)
        return kept

    def _compute(self, node: Node, chunk: int) -> Steps[Floats]:
        start, stop = self._range(chunk)
        if node.silent(start, stop):
            return np.zeros((2, self.grid))
        if isinstance(node, ClipNode):
            return clip_sound(node, self.media, start, stop)
        if isinstance(node, TreatedNode):
            treated: Floats = yield self._treat(node, chunk)
            return treated
        if isinstance(node, LevelNode):
            return levelled(node, (yield self._output(node.inputs[0], chunk)), start)
        total: Floats | None = None
        for source in node.inputs:
            if not source.silent(start, stop):
                heard: Floats = yield self._output(source, chunk)
                total = heard.copy() if total is None else np.add(total, heard, out=total)
        return np.zeros((2, self.grid)) if total is None else total

    def _treat(self, node: TreatedNode, chunk: int) -> Steps[Floats]:
        place = self._places.get(node)
        if place is None:
            place = self._places[node] = Place(Running(node.plan, self.probe))
        place.bound = chunk
        first = yield self._resume(node, place, chunk)
        for i in range(first, chunk):
            passed = yield self._advance(node, place, i)
            if not self.store:
                # Whoever comes later in order may still ask for it.
                self._recent[node, i] = passed
        wanted: Floats = yield self._advance(node, place, chunk)
        return wanted

    def _resume(self, node: TreatedNode, place: Place, chunk: int) -> Steps[int]:
        """Bring the treatment to the last known state at or before a chunk; say which."""
        first = node.first // self.grid
        for i in range(chunk, first, -1):
            before = self._state_key(node, i - 1)
            if place.chunk == i and place.key == before:
                return i
            state = self.store.state(before) if self.store else None
            if state is not None:
                place.leave()
                place.running.restore(state)
                return i
        yield self._begin(node, place)
        return first

    def _state_key(self, node: TreatedNode, chunk: int) -> bytes:
        return self._names.state(node, chunk, self.wanted) if self.store else b""

    def _begin(self, node: TreatedNode, place: Place) -> Steps[None]:
        """Bring a treatment to its beginning.

        It is fed what comes before its span; at depth 0 that changes nothing there.
        """
        place.leave()
        place.running.reset()
        place.running.open(not (yield self._begins_itself(node)))
        plan = node.plan
        yield self._feed(
            node, place, max(0, node.first - plan.lookback), node.first + plan.lookahead
        )

    def _begins_itself(self, node: TreatedNode) -> Steps[bool]:
        """Whether the sound begins where the treatment does, so that nothing is cut into."""
        reach = node.plan.around
        if not reach:
            return False
        if isinstance(node.source, ClipNode):
            return opens(node.source, self.media)
        before: Floats = yield self._stretch(node.source, max(0, node.first - reach), node.first)
        after: Floats = yield self._stretch(node.source, node.first, node.first + reach)
        return begins(before, after)

    def _feed(
        self, node: TreatedNode, place: Place, start: int, stop: int, rising: int = 0
    ) -> Steps[Floats]:
        """Feed a treatment what its source yields in ``[start, stop)``; what it answers to that.

        The first ``rising`` samples are faded in.
        """
        ahead = node.plan.lookahead
        x = yield self._stretch(node.source, start, stop)
        hear = yield self._hearing(node, start - ahead, stop)
        if rising:
            x = x * Envelope(stop - start, rising, "smooth").values(0, stop - start)
        y = np.empty((2, max(0, stop - start)))
        place.leave()
        at, spent = start, 0.0
        while at < stop:
            if not self.wanted():
                raise Superseded
            began = self.clock() if self.clock else 0.0
            given = place.piece or self.piece or self.grid
            part = slice(at - start, min(at + given, stop) - start)
            y[:, part] = place.running.process(x[:, part], at - ahead - node.start, hear)
            at = start + part.stop
            if self.clock:
                took = self.clock() - began
                spent += took
                if part.stop - part.start == given:
                    place.piece = next_piece(given, took, self.piece or self.grid, self.grid)
        if self.clock and stop - start == self.grid:
            place.took = spent
        return y

    def _hearing(self, node: TreatedNode, start: int, stop: int) -> Steps[Hear | None]:
        """What other tracks play in a stretch, for a treatment that listens to them."""
        if not node.sides:
            return None
        heard: dict[str, Floats] = {}
        for track, side in node.sides.items():
            heard[track] = yield self._stretch(side, start, stop)

        def hear(track: str, a: int, b: int) -> Floats:
            return heard[track][:, node.start + a - start : node.start + b - start]

        return hear

    def _stretch(self, node: Node, start: int, stop: int) -> Steps[Floats]:
        parts: list[Floats] = []
        at = start
        if start < 0:
            parts.append(np.zeros((2, min(0, stop) - start)))
            at = min(0, stop)
        while at < stop:
            chunk = at // self.grid
            begin = chunk * self.grid
            upto = min(stop, begin + self.grid)
            whole: Floats = yield self._output(node, chunk)
            parts.append(whole[:, at - begin : upto - begin])
            at = upto
        if not parts:
            return np.zeros((2, 0))
        return parts[0] if len(parts) == 1 else np.concatenate(parts, axis=1)

    def _advance(self, node: TreatedNode, place: Place, chunk: int) -> Steps[Floats]:
        start, stop = self._range(chunk)
        a, b = max(start, node.first), min(stop, node.stop)
        ahead = node.plan.lookahead
        key = self._state_key(node, chunk)
        around: Floats | None = None
        if b - a < self.grid:
            around = yield self._output(node.source, chunk)
        y: Floats = yield self._feed(node, place, a + ahead, b + ahead)
        if around is not None:
            treated, y = y, around.copy()
            y[:, a - start : b - start] = treated
        place.chunk, place.key = chunk + 1, key
        if self.store and stop < node.stop and chunk % place.every == 0:
            lasting = chunk % place.apart == 0
            if lasting or place.bound - chunk < NEAR * place.every:
                place.every = self.store.keep_state(key, place.running.state(), lasting)
        return y


__all__ = ["Place", "Runner", "Superseded"]
