"""Tallies of any place in the signal flow, second by second; equal sounds are measured once."""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.engine.keys import Superseded
from bathyphon.core.engine.live import Playing
from bathyphon.core.engine.nodes import Node, heard_from
from bathyphon.core.measure.tally import BEFORE_SECONDS, COLUMNS, ROWS_A_SECOND, Tally

Names = tuple[str, str]
"""Of what sounds in the second before, and in it."""


class Kept(Protocol):
    """Rows of seconds by their names: a dictionary, or what several threads may use."""

    def get(self, names: Names, /) -> Floats | None:
        """Rows that are known."""

    def __setitem__(self, names: Names, rows: Floats, /) -> None:
        """Keep rows."""


class Tallies:
    """Measures one state of a reel.

    Parameters
    ----------
    playing : Playing
    kept : mapping
        Rows that are known; those that are worked out are added. States of one reel may share it.
    wanted : callable
        Says whether the result is still wanted.
    """

    def __init__(
        self, playing: Playing, kept: Kept, wanted: Callable[[], bool] = lambda: True
    ) -> None:
        self.playing = playing
        self._kept = kept
        self._wanted = wanted

    def rows(self, start: int, stop: int, node: Node | None = None) -> Floats:
        """Rows of a stretch, on the reel's own tenths of a second.

        Parameters
        ----------
        start, stop : int
            Samples; tenths of which more than half lies outside are left out, but one at least is
            given.
        node : Node, optional
            A place in the signal flow; what is heard if it is not given.

        Returns
        -------
        ndarray of float64, shape (n, :data:`~bathyphon.core.measure.tally.COLUMNS`)

        Raises
        ------
        Superseded
            If the result is not wanted any more.
        """
        rate = self.playing.rate
        first = round(start * ROWS_A_SECOND / rate)
        last = max(first + 1, round(stop * ROWS_A_SECOND / rate))
        seconds = range(first // ROWS_A_SECOND, -(-last // ROWS_A_SECOND))
        rows = np.concatenate([self.second(i, node) for i in seconds])
        skipped = seconds.start * ROWS_A_SECOND
        return rows[first - skipped : last - skipped]

    def second(self, index: int, node: Node | None = None) -> Floats:
        """The ten rows of a second."""
        if not self._wanted():
            raise Superseded
        names = self._names(index, node)
        found = self._kept.get(names)
        if found is None:
            found = self._kept[names] = self._measured(index, node)
        return found

    def _names(self, index: int, node: Node | None) -> Names:
        playing = self.playing
        return (
            playing.name(index - 1, self._wanted, node) if index else "",
            playing.name(index, self._wanted, node),
        )

    def _measured(self, index: int, node: Node | None) -> Floats:
        playing, rate = self.playing, self.playing.rate
        start = index * rate
        place = node or playing.graph.out
        before = round(BEFORE_SECONDS * rate)
        if heard_from(place, start - before, start + rate).silent(start - before, start + rate):
            return np.zeros((ROWS_A_SECOND, COLUMNS))
        earlier = None
        if index and not place.silent(start - before, start):
            earlier = playing.output(index - 1, self._wanted, node)[:, -before:]
        meter = Tally(rate, earlier)
        meter.add(playing.output(index, self._wanted, node))
        return meter.rows()
