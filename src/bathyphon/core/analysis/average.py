"""The mean spectrum of a stretch."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction

from bathyphon.core.analysis.kind import decibels
from bathyphon.core.analysis.tiles import COARSEST, Tiles
from bathyphon.core.arrays import Floats

FINE = Fraction(50)
LONG_SECONDS = 20
"""What is longer is put together from coarse columns, which may be known already."""


def average_of(
    tiles: Tiles, start: int, stop: int, late: Callable[[], bool] = lambda: False
) -> tuple[Floats, float]:
    """Levels in dB of the mean power of each row over a stretch, as far as it is known.

    Parameters
    ----------
    tiles : Tiles
        Of a kind whose columns hold powers.
    start, stop : int
        Samples of the reel.
    late : callable
        Says when to answer with what is known.

    Returns
    -------
    levels : ndarray of float64, shape (rows,)
    share : float
        How much of the stretch they are of, 0 to 1.
    """
    long = stop - start > LONG_SECONDS * tiles.spot.rate
    columns, share = tiles.columns(start, stop, COARSEST if long else FINE, late)
    return decibels(columns.mean(axis=0)), share
