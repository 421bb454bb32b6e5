"""Columns over time in tiles, worked out second by second; equal sounds are looked at once.

What is seen of a second depends on what sounds in it and shortly around it alone, so it is known
by the names of those seconds, wherever it lies and whatever is edited elsewhere. Coarse columns are
folded from finer ones: two hours are put together from what is known of each second.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from hashlib import blake2b
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.analysis.kind import MISSING, Kind, Settings
from bathyphon.core.analysis.spot import Spot
from bathyphon.core.arrays import Floats
from bathyphon.core.engine.keys import Superseded

STEPS = (Fraction(200), Fraction(50), Fraction(10), Fraction(2), Fraction(1, 2), Fraction(1, 10))
"""Columns a second that can be had."""
COLUMNS = 200
"""Columns of a tile."""
COARSEST = Fraction(2)
"""Columns a second that are worked out from sound; fewer are folded from those."""

Name = tuple[object, ...]


class Kept(Protocol):
    """Columns of seconds by their names: a dictionary, or what several threads may use."""

    def get(self, name: Name, /) -> NDArray[np.float32] | None:
        """Columns that are known."""

    def __setitem__(self, name: Name, columns: NDArray[np.float32], /) -> None:
        """Keep columns."""


@dataclass(frozen=True)
class Tile:
    """Columns side by side.

    Parameters
    ----------
    values : ndarray of int16, shape (COLUMNS, rows)
        See :meth:`~bathyphon.core.analysis.kind.Kind.written`; what lies beyond the reel or is not
        known yet is missing.
    share : float
        How much of it is known, 0 to 1.
    """

    values: NDArray[np.int16]
    share: float


class Tiles:
    """Looks at one spot in one way.

    Parameters
    ----------
    spot : Spot
    kind : Kind
    settings : Settings
    kept : mapping
        Columns that are known; those that are worked out are added.
    """

    def __init__(
        self,
        spot: Spot,
        kind: Kind,
        settings: Settings,
        kept: Kept,
    ) -> None:
        self.spot = spot
        self.kind = kind
        self.settings = settings
        self._kept = kept
        before, after = kind.reach(settings, spot.rate)
        self._before, self._after = (-(-samples // spot.rate) for samples in (before, after))

    def seconds(self, step: Fraction, index: int) -> range:
        """The seconds of the reel that a tile shows."""
        last = -(-self.spot.survey.length // self.spot.rate)
        first = int(index * COLUMNS / step)
        return range(min(first, last), min(int((index + 1) * COLUMNS / step), last))

    def name(self, step: Fraction, index: int) -> str:
        """Of what a tile shows: equal names mean equal tiles."""
        parts = repr((self.kind.id, self.settings, step, index)).encode()
        shown = blake2b(parts, digest_size=16)
        for second in self.seconds(step, index):
            shown.update(repr(self._names(second)).encode())
        return shown.hexdigest()

    def tile(self, step: Fraction, index: int, late: Callable[[], bool] = lambda: False) -> Tile:
        """A tile, or as much of it as is known when it gets late.

        Raises
        ------
        Superseded
            If it is not wanted any more.
        """
        seconds = self.seconds(step, index)
        width = self.kind.width(self.settings, self.spot.rate)
        values = np.full((COLUMNS, width), MISSING, np.int16)
        if not seconds:
            return Tile(values, 1.0)
        base = max(step, COARSEST)
        columns, share = self._gathered(seconds, int(base), late)
        fold = int(base / step)
        missing = -len(columns) % fold
        if missing and share == 1.0:
            # At the reel's end what is left is folded by itself.
            columns = np.concatenate([columns, columns[-1:].repeat(missing, axis=0)])
        whole = len(columns) // fold
        if whole:
            folded = columns[: whole * fold].reshape(whole, fold, -1)
            values[:whole] = self.kind.written(self.kind.fold(folded))
        return Tile(values, share)

    def columns(
        self, start: int, stop: int, step: Fraction, late: Callable[[], bool] = lambda: False
    ) -> tuple[Floats, float]:
        """Columns of a stretch as they are worked with, or as many as are known when it gets late.

        Parameters
        ----------
        start, stop : int
            Samples. Columns that lie half inside count; there is one at least.
        step : Fraction
            Columns a second, two at least.
        late : callable

        Returns
        -------
        columns : ndarray of float64, shape (n, rows)
        share : float
            How much of the stretch they cover, 0 to 1.
        """
        rate = self.spot.rate
        first = round(start * step / rate)
        last = max(first + 1, round(stop * step / rate))
        seconds = range(int(first // step), -int(-last // step))
        found, share = self._gathered(seconds, int(step), late)
        skipped = int(seconds.start * step)
        return found[first - skipped : last - skipped], share

    def second(self, second: int, columns: int) -> NDArray[np.float32]:
        """Columns of one second."""
        if not self.spot.survey.wanted():
            raise Superseded
        names = self._names(second)
        name = (self.kind.id, self.settings, columns, *names)
        found = self._kept.get(name)
        if found is None:
            made = self.kind.second(self.spot, second, columns, self.settings)
            found = self._kept[name] = made.astype(np.float32)
        return found

    def _gathered(
        self, seconds: range, columns: int, late: Callable[[], bool]
    ) -> tuple[Floats, float]:
        """Columns of seconds, one of them at least, and how many of all."""
        done: list[NDArray[np.float32]] = []
        for second in seconds:
            if done and late():
                break
            done.append(self.second(second, columns))
        return np.concatenate(done).astype(np.float64), len(done) / len(seconds)

    def _names(self, second: int) -> tuple[str, ...]:
        around = range(second - self._before, second + self._after + 1)
        return tuple(self.spot.name(i) for i in around)
