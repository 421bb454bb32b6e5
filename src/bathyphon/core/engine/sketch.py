"""Sound at once: a short piece, while the exact sound is still being worked out.

After a change everything that a treatment remembers is void from its beginning on. To be heard at
once it goes on from what stood there before the change, as a sound goes on in which a knob is
turned; where nothing did, it begins shortly before the piece that is asked for, out of silence:
what rang from further back is missing, and a swing may stand elsewhere. Where an exact state is
known it goes on from there, and where that is so all the way the piece is exact.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from weakref import WeakSet

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.engine.levels import clip_sound
from bathyphon.core.engine.media import Media
from bathyphon.core.engine.nodes import ClipNode, Node, TreatedNode, heard_from
from bathyphon.core.engine.runner import Place, Runner
from bathyphon.core.engine.steps import Steps
from bathyphon.core.engine.trail import Trail, go_on
from bathyphon.core.timing.shapes import glide_samples

PREROLL_SECONDS = 2.0


@dataclass
class Sketch(Runner):
    """A runner on a finer grid that begins where it is asked, beside exact ones.

    It serves one state of a reel after the other, and what they share goes on.

    Parameters
    ----------
    sample_rate : int
    """

    sample_rate: int = 48000
    _exact: Runner | None = None
    trail: Trail = field(default_factory=Trail)
    # Treatments, and pieces of their sound, that something rough has gone into.
    _rough: WeakSet[Node] = field(default_factory=WeakSet)
    _rough_pieces: set[tuple[Node, int]] = field(default_factory=set)
    _touched: set[Node] = field(default_factory=set)
    _made: set[tuple[Node, int]] = field(default_factory=set)
    _used_rough: bool = False
    _floor: int = 0

    def __post_init__(self) -> None:
        super().__post_init__()
        self._preroll = round(PREROLL_SECONDS * self.sample_rate)

    def beside(self, exact: Runner, media: Media, wanted: Callable[[], bool]) -> Sketch:
        """Go on beside another runner, whose outputs and states are used where they are known."""
        self._exact = exact
        self.media = media
        self.wanted = wanted
        return self

    def made(self, node: Node, start: int, stop: int) -> tuple[Floats, bool]:
        """A node's samples ``start … stop − 1``, and whether they are the exact ones.

        Returns
        -------
        sound : ndarray of float64, shape (2, stop − start)
        exact : bool
        """
        around = 2 * self._preroll // self.grid
        self.forget_outside(start // self.grid - around, stop // self.grid + around)
        self._rough_pieces &= self._recent.keys()
        self._touched, self._made, self._used_rough = set(), set(), False
        # All begin together, however many feed one another: else each would begin before the next.
        self._floor = start // self.grid * self.grid - self._preroll
        sound = self.stretch(node, start, stop)
        exact = not self._used_rough and not any(n in self._rough for n in self._touched)
        if not exact:
            # What has been fed from something rough is rough itself from then on.
            self._rough.update(self._touched)
            self._rough_pieces |= self._made & self._recent.keys()
        return sound, exact

    def _output(self, node: Node, chunk: int) -> Steps[Floats]:
        node = heard_from(node, *self._range(chunk))
        if (node, chunk) in self._rough_pieces:
            known = self._known_piece(node, chunk)
            if known is not None:
                self._recent[node, chunk] = known
                self._rough_pieces.discard((node, chunk))
        out: Floats = yield super()._output(node, chunk)
        self._used_rough |= (node, chunk) in self._rough_pieces
        return out

    def _found(self, node: Node, chunk: int) -> Steps[Floats]:
        known = self._known_piece(node, chunk)
        if known is None:
            known = yield self._compute(node, chunk)
            self._made.add((node, chunk))
        self._recent[node, chunk] = known
        self._rough_pieces.discard((node, chunk))
        return known

    def _compute(self, node: Node, chunk: int) -> Steps[Floats]:
        if isinstance(node, ClipNode) and node.change is not None and node.change.stretches:
            start, stop = self._range(chunk)
            if not node.silent(start, stop):
                # The exact one would go on from the clip's beginning.
                self._used_rough = True
                return clip_sound(node, self.media, start, stop, rough=True)
        out: Floats = yield super()._compute(node, chunk)
        return out

    def _known_piece(self, node: Node, chunk: int) -> Floats | None:
        """From the exact sound, where that is known."""
        assert self._exact is not None
        start, stop = self._range(chunk)
        grid = self._exact.grid
        parts = []
        for i in range(start // grid, -(-stop // grid)):
            whole = self._exact.known(node, i)
            if whole is None:
                return None
            parts.append(whole[:, max(0, start - i * grid) : min(grid, stop - i * grid)])
        return parts[0] if len(parts) == 1 else np.concatenate(parts, axis=1)

    def _resume(self, node: TreatedNode, place: Place, chunk: int) -> Steps[int]:
        self._touched.add(node)
        # What stands a little before goes on; what would have to run far begins anew.
        if place.chunk >= 0 and 0 <= chunk - place.chunk <= self._preroll // self.grid:
            return place.chunk
        wanted = max(chunk * self.grid, node.first)
        at = yield self._nearest(node, place, wanted)
        ahead = node.plan.lookahead
        yield self._feed(node, place, at + ahead, wanted + ahead)
        return chunk

    def _nearest(self, node: TreatedNode, place: Place, wanted: int) -> Steps[int]:
        """Bring a treatment to some sample at or before the one that is wanted; say which."""
        assert self._exact is not None
        grid = self._exact.grid
        earliest = max(node.first, min(wanted, self._floor))
        for i in range(wanted // grid, earliest // grid, -1):
            state = self._exact.known_state(node, i - 1)
            if state is not None:
                place.leave()
                place.running.restore(state)
                self._rough.discard(node)
                return i * grid
        if self.trail.take(node, wanted, place.running):
            place.leave()
            self._rough.add(node)
            return wanted
        if earliest == node.first:
            self._rough.discard(node)
            yield self._begin(node, place)
            return earliest
        self._rough.add(node)
        place.leave()
        begun = self._from_before(node, place, wanted, earliest)
        if begun is not None:
            return begun
        place.running.reset()
        # Out of silence, softly: a hard edge would ring in a room.
        rising = glide_samples(self.sample_rate)
        yield self._feed(node, place, earliest - rising, earliest + node.plan.lookahead, rising)
        return earliest

    def _from_before(
        self, node: TreatedNode, place: Place, wanted: int, earliest: int
    ) -> int | None:
        """Go on from an exact state of the treatment that stood here before; say where."""
        assert self._exact is not None
        older = self.trail.before(node)
        if older is None:
            return None
        grid = self._exact.grid
        for i in range(wanted // grid, earliest // grid, -1):
            state = self._exact.known_state(older, i - 1)
            if state is not None and go_on(older.plan, state, node, place.running):
                return i * grid
        return None

    def _advance(self, node: TreatedNode, place: Place, chunk: int) -> Steps[Floats]:
        self.trail.keep(node, max(chunk * self.grid, node.first), place.running)
        out: Floats = yield super()._advance(node, place, chunk)
        self.trail.keep(node, (chunk + 1) * self.grid, place.running)
        return out
