"""Levels in dB as factors."""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.timing.shapes import SILENCE_DB


@njit(cache=True, nogil=True)
def _gain_of_db(db: Floats, out: Floats) -> None:  # pragma: no cover - compiled
    last = 0.0
    gain = 1.0
    for k in range(db.size):
        if db[k] != last:
            last = db[k]
            gain = 0.0 if last <= SILENCE_DB else 10.0 ** (last / 20.0)
        out[k] = gain


def gain_of_db(db: Floats) -> Floats:
    """Amplitude factors of levels in dB; −96 dB and below is silence."""
    out = np.empty_like(db)
    _gain_of_db(db, out)
    return out
