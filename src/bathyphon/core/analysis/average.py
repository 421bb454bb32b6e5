"""The mean spectrum of a stretch."""

from __future__ import annotations

from fractions import Fraction

from bathyphon.core.analysis.kind import decibels
from bathyphon.core.analysis.tiles import COARSEST, Tiles
from bathyphon.core.arrays import Floats

FINE = Fraction(50)
LONG_SECONDS = 20
"""What is longer is put together from coarse columns, which may be known already."""


def average_of(tiles: Tiles, start: int, stop: int) -> Floats:
    """Levels in dB of the mean power of each row over a stretch.

    Parameters
    ----------
    tiles : Tiles
        Of a kind whose columns hold powers.
    start, stop : int
        Samples of the reel.
    """
    long = stop - start > LONG_SECONDS * tiles.spot.rate
    columns = tiles.columns(start, stop, COARSEST if long else FINE)
    return decibels(columns.mean(axis=0))
