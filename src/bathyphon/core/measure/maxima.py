"""Local maxima of a curve that are apart from each other."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray


def maxima(curve: NDArray[np.floating], apart: int) -> NDArray[np.int64]:
    """Where a curve is higher than beside it; of maxima that are close only the highest stays.

    Parameters
    ----------
    curve : ndarray, shape (n,)
    apart : int
        Least distance of two maxima, in places of the curve.

    Returns
    -------
    ndarray of int64
        Places, rising. A level top counts at its middle; what begins or ends level with an end of
        the curve is no maximum.

    Examples
    --------
    >>> maxima(np.array([0.0, 2.0, 0.0, 1.0, 1.0, 1.0, 0.0, 3.0]), 1).tolist()
    [1, 4]
    >>> maxima(np.array([0.0, 2.0, 1.0, 3.0, 0.0]), 3).tolist()
    [3]
    """
    # Stretches of equal values: a maximum is one that is higher than both of its neighbours.
    starts = np.flatnonzero(np.diff(curve, prepend=np.nan) != 0)
    ends = np.append(starts[1:], len(curve)) - 1
    levels = curve[starts]
    rises = np.diff(levels, prepend=np.inf) > 0
    falls = np.diff(levels, append=np.inf) < 0
    tops = rises & falls
    found = ((starts + ends) // 2)[tops].astype(np.int64)
    # The highest first; of those that are equal, the later.
    order = np.argsort(levels[tops], kind="stable")[::-1]
    at = found.tolist()
    kept = [True] * len(at)
    for k in order.tolist():
        if not kept[k]:
            continue
        for step in (-1, 1):
            other = k + step
            while 0 <= other < len(at) and abs(at[other] - at[k]) < apart:
                kept[other] = False
                other += step
    stays = np.array(kept, dtype=bool)
    return np.asarray(found[stays], np.int64)
