"""Sound at once: a short piece from a pre-roll, while the exact sound is still being worked out.

After a change everything that a treatment remembers is void from its beginning on. To be heard at
once it begins shortly before the piece that is asked for, out of silence: what rang from further
back is missing, and a swing may stand elsewhere. Where a state is known it goes on from there, and
where that is so all the way the piece is exact.
"""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.engine.nodes import Node, TreatedNode
from bathyphon.core.engine.runner import Place, Runner
from bathyphon.core.engine.steps import Steps
from bathyphon.core.timing.shapes import glide_samples

PREROLL_SECONDS = 2.0


@dataclass
class Sketch(Runner):
    """A runner on a finer grid that begins where it is asked, beside an exact one.

    Parameters
    ----------
    exact : Runner
        Whose outputs and states are used where they are known.
    sample_rate : int
    """

    exact: Runner | None = None
    sample_rate: int = 48000
    _rough: set[Node] = field(default_factory=set)
    _touched: set[Node] = field(default_factory=set)

    def __post_init__(self) -> None:
        super().__post_init__()
        self._preroll = round(PREROLL_SECONDS * self.sample_rate)

    def made(self, node: Node, start: int, stop: int) -> tuple[Floats, bool]:
        """A node's samples ``start … stop − 1``, and whether they are the exact ones.

        Returns
        -------
        sound : ndarray of float64, shape (2, stop − start)
        exact : bool
        """
        self.forget_before(start // self.grid, 2 * self._preroll)
        self._touched = set()
        sound = self.stretch(node, start, stop)
        exact = not self._touched & self._rough
        if not exact:
            # What has been fed from something rough is rough itself from then on.
            self._rough |= self._touched
        return sound, exact

    def _found(self, node: Node, chunk: int) -> Steps[Floats]:
        known = self._known_piece(node, chunk)
        if known is None:
            known = yield self._compute(node, chunk)
        self._recent[node, chunk] = known
        return known

    def _known_piece(self, node: Node, chunk: int) -> Floats | None:
        """From the exact sound, where that is known."""
        assert self.exact is not None
        start, stop = self._range(chunk)
        grid = self.exact.grid
        parts = []
        for i in range(start // grid, -(-stop // grid)):
            whole = self.exact.known(node, i)
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
        assert self.exact is not None
        grid = self.exact.grid
        earliest = max(node.first, wanted - self._preroll)
        for i in range(wanted // grid, earliest // grid, -1):
            state = self.exact.known_state(node, i - 1)
            if state is not None:
                place.leave()
                place.running.restore(state)
                self._rough.discard(node)
                return i * grid
        if earliest == node.first:
            self._rough.discard(node)
            yield self._begin(node, place)
            return earliest
        self._rough.add(node)
        place.leave()
        place.running.reset()
        # Out of silence, softly: a hard edge would ring in a room.
        rising = glide_samples(self.sample_rate)
        yield self._feed(node, place, earliest - rising, earliest + node.plan.lookahead, rising)
        return earliest
