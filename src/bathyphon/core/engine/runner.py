"""Computing a graph: chunk by chunk, from checkpoints, remembering what it has computed.

The output of a node in chunk *i* is a pure function of its state before the chunk, of its inputs
and of the parameters that touch the chunk. Its key is the hash of all of these, so results and
states can be kept and found again whatever was edited elsewhere.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from hashlib import blake2b
from threading import RLock

import llvmlite.binding
import numba
import numpy as np
import scipy

from bathyphon.core.curves import Floats
from bathyphon.core.effects.base import State
from bathyphon.core.engine.chain import Hear, Probe, Running
from bathyphon.core.engine.media import Media
from bathyphon.core.engine.nodes import ClipNode, LevelNode, Node, TreatedNode
from bathyphon.core.engine.store import Store
from bathyphon.version import __version__

SALT = repr(
    (
        __version__,
        np.__version__,
        numba.__version__,
        scipy.__version__,
        llvmlite.binding.get_host_cpu_name(),
    )
).encode()


class Superseded(Exception):
    """The result is no longer wanted."""


@dataclass
class _Place:
    """Where a running treatment stands: before which chunk, reached through which key."""

    running: Running
    chunk: int = -1
    key: bytes = b""


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
        Largest block that treatments are given; between pieces ``wanted`` is asked.
    wanted : callable, optional
        Returns false when the result is no longer wanted.
    probe : callable, optional
        Told the id of an effect and the size of each block it receives.
    """

    media: Media
    grid: int
    store: Store | None = None
    piece: int = 0
    wanted: Callable[[], bool] = lambda: True
    probe: Probe | None = None
    _places: dict[str, _Place] = field(default_factory=dict)
    _recent: dict[tuple[str, int], Floats] = field(default_factory=dict)
    _keys: dict[tuple[str, int], bytes] = field(default_factory=dict)
    _locks: dict[str, RLock] = field(default_factory=dict)

    def output(self, node: Node, chunk: int) -> Floats:
        """A node's chunk, float64 of shape (2, grid); not to be written to.

        Raises
        ------
        Superseded
            If ``wanted`` said no on the way.
        """
        recent = self._recent.get((node.name, chunk))
        if recent is not None:
            return recent
        # Several threads may ask for the same; a treatment goes through its chunks in order.
        with self._locks.setdefault(node.name, RLock()):
            recent = self._recent.get((node.name, chunk))
            return self._found(node, chunk) if recent is None else recent

    def _found(self, node: Node, chunk: int) -> Floats:
        """Remembered or computed."""
        key = self.key(node, chunk) if self.store else b""
        if self.store:
            kept = self.store.output(key)
            if kept is not None:
                return kept
        out = self._compute(node, chunk)
        if self.store:
            self.store.keep_output(key, out)
        else:
            self._recent[node.name, chunk] = out
        return out

    def forget_before(self, chunk: int, lookback: int = 0) -> None:
        """Drop what a render in order no longer needs, but for ``lookback`` samples."""
        last = chunk - -(-lookback // self.grid)
        for name, i in list(self._recent):
            if i < last:
                del self._recent[name, i]

    def key(self, node: Node, chunk: int) -> bytes:
        """Hash of all that determines a node's chunk."""
        found = self._keys.get((node.name, chunk))
        if found is None:
            found = self._key(node, chunk)
            self._keys[node.name, chunk] = found
        return found

    def _key(self, node: Node, chunk: int) -> bytes:
        start, stop = self._range(chunk)
        if node.silent(start, stop):
            return b"silence"
        parts = [SALT, repr((self.grid, node.touching(start, stop))).encode()]
        if isinstance(node, TreatedNode):
            if node.idle(start, stop):
                return self.key(node.source, chunk)
            first = max(0, node.start) // self.grid
            if chunk > first:
                # Ask for earlier keys in order, so that the recursion stays shallow.
                known = chunk
                while known > first and (node.name, known - 1) not in self._keys:
                    known -= 1
                for i in range(known, chunk):
                    self.key(node, i)
                parts.append(self.key(node, chunk - 1))
            else:
                parts += [self.key(s, i) for s in node.inputs for i in self._lookback(node)]
        if isinstance(node, TreatedNode):
            last = (stop - 1 + node.plan.lookahead) // self.grid
            parts += [self.key(s, i) for s in node.inputs for i in range(chunk, last + 1)]
        else:
            parts += [self.key(source, chunk) for source in node.inputs]
        return blake2b(b"|".join(parts), digest_size=20).digest()

    def _range(self, chunk: int) -> tuple[int, int]:
        return chunk * self.grid, (chunk + 1) * self.grid

    def _compute(self, node: Node, chunk: int) -> Floats:
        start, stop = self._range(chunk)
        if node.silent(start, stop):
            return np.zeros((2, self.grid))
        if isinstance(node, ClipNode):
            return node.render(self.media, start, stop)
        if isinstance(node, TreatedNode):
            return self._treat(node, chunk)
        if isinstance(node, LevelNode):
            return node.apply(self.output(node.inputs[0], chunk), start)
        sounding = [s for s in node.inputs if not s.silent(start, stop)]
        if not sounding:
            return np.zeros((2, self.grid))
        if len(sounding) == 1:
            return self.output(sounding[0], chunk)
        first, second, *others = [self.output(source, chunk) for source in sounding]
        total = first + second
        for other in others:
            total += other
        return total

    def _treat(self, node: TreatedNode, chunk: int) -> Floats:
        start, stop = self._range(chunk)
        if node.idle(start, stop):
            return self.output(node.source, chunk)
        place = self._places.get(node.name)
        if place is None or place.running.plan is not node.plan:
            place = _Place(Running(node.plan, self.probe))
            self._places[node.name] = place
        for i in range(self._resume(node, place, chunk), chunk):
            self._advance(node, place, i)
        return self._advance(node, place, chunk)

    def _resume(self, node: TreatedNode, place: _Place, chunk: int) -> int:
        """Bring the treatment to the last known state at or before a chunk; say which."""
        first = max(0, node.start) // self.grid
        for i in range(chunk, first, -1):
            before = self.key(node, i - 1) if self.store else b""
            if place.chunk == i and place.key == before:
                return i
            state = self.store.state(before) if self.store else None
            if state is not None:
                place.running.restore(state)
                return i
        place.running.reset()
        self._settle(node, place)
        return first

    def _lookback(self, node: TreatedNode) -> range:
        """Chunks that hold what a treatment is fed before its span."""
        first = max(0, node.start - node.plan.lookback)
        return range(first // self.grid, -(-max(0, node.start) // self.grid))

    def _settle(self, node: TreatedNode, place: _Place) -> None:
        """Feed a treatment what comes before its span; at depth 0 it changes nothing there."""
        ahead = node.plan.lookahead
        first = max(0, node.start - node.plan.lookback)
        for start in range(first, node.start + ahead, self.grid):
            stop = min(start + self.grid, node.start + ahead)
            x = self._stretch(node.source, start, stop)
            at = start - ahead - node.start
            place.running.process(x, at, self._hearing(node))

    def _hearing(self, node: TreatedNode) -> Hear | None:
        if not node.sides:
            return None

        def hear(track: str, start: int, stop: int) -> Floats:
            return self._stretch(node.sides[track], node.start + start, node.start + stop)

        return hear

    def _stretch(self, node: Node, start: int, stop: int) -> Floats:
        """A node's samples ``start … stop − 1``, whatever chunks they lie in."""
        parts = []
        at = start
        if start < 0:
            parts.append(np.zeros((2, min(0, stop) - start)))
            at = min(0, stop)
        while at < stop:
            chunk = at // self.grid
            begins = chunk * self.grid
            upto = min(stop, begins + self.grid)
            parts.append(self.output(node, chunk)[:, at - begins : upto - begins])
            at = upto
        return parts[0] if len(parts) == 1 else np.concatenate(parts, axis=1)

    def _advance(self, node: TreatedNode, place: _Place, chunk: int) -> Floats:
        start, stop = self._range(chunk)
        a, b = max(start, node.start), min(stop, node.stop)
        source = self.output(node.source, chunk)
        y = source.copy() if b - a < self.grid else np.empty_like(source)
        ahead = node.plan.lookahead
        hear = self._hearing(node)
        place.chunk = -1
        at = a
        while at < b:
            if not self.wanted():
                raise Superseded
            n = min(b - at, self.piece or self.grid)
            x = self._stretch(node.source, at + ahead, at + ahead + n)
            y[:, at - start : at - start + n] = place.running.process(x, at - node.start, hear)
            at += n
        place.chunk = chunk + 1
        if self.store:
            place.key = self.key(node, chunk)
            if stop < node.stop:
                self.store.keep_state(place.key, place.running.state())
        return y


__all__ = ["Runner", "State", "Superseded"]
