"""Laying beats on onsets by dynamic programming.

D. P. W. Ellis, "Beat tracking by dynamic programming", J. New Music Research 36, 2007.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit

TIGHTNESS = 180.0


@njit(cache=True, nogil=True)
def _dynamic(
    flux: Floats, periods: Floats, tightness: float
) -> NDArray[np.int64]:  # pragma: no cover
    n = flux.size
    total = np.zeros(n)
    back = np.full(n, -1, np.int64)
    logs = np.log(np.arange(1, int(2.0 * periods.max()) + 3).astype(np.float64))
    for i in range(n):
        p = periods[i]
        first = i - int(1.6 * p)
        last = i - int(0.6 * p)
        log_p = np.log(p)
        best = 0.0
        where = -1
        for j in range(max(0, first), last + 1):
            u = logs[i - j - 1] - log_p
            value = total[j] - tightness * u * u
            if where < 0 or value > best:
                best = value
                where = j
        if where >= 0 and best > 0.0:
            total[i] = flux[i] + best
            back[i] = where
        else:
            total[i] = flux[i]
    last_p = int(periods[n - 1])
    end = max(0, n - last_p)
    at = end
    for i in range(end, n):
        if total[i] > total[at]:
            at = i
    count = 0
    k = at
    while k >= 0:
        count += 1
        k = back[k]
    beats = np.zeros(count, np.int64)
    k = at
    for i in range(count - 1, -1, -1):
        beats[i] = k
        k = back[k]
    return beats


def track(flux: Floats, periods: Floats) -> NDArray[np.int64]:
    """Beats in hops: on strong flux, about a period apart, at every hop a period of its own."""
    scale = float(np.std(flux)) + 1e-9
    return np.asarray(_dynamic(flux / scale, periods, TIGHTNESS), np.int64)
