"""Loudness over time: momentary and short-term, and the true peak (EBU Tech 3341)."""

from __future__ import annotations

import numpy as np

from bathyphon.core.analysis.kind import Kind, Settings, Source
from bathyphon.core.arrays import Floats
from bathyphon.core.measure import tally as t
from bathyphon.core.measure.loudness import MOMENTARY, SHORT_TERM, lufs

SECONDS = SHORT_TERM // t.ROWS_A_SECOND
PEAK = 2


def _second(source: Source, index: int, columns: int, settings: Settings) -> Floats:
    rows = source.tally(index - SECONDS, index + 1)
    total = np.concatenate([[0.0], np.cumsum(rows[:, t.WEIGHTED])])
    # The window of each row ends with it: what is said of a moment is what was heard up to there.
    ends = np.arange(rows.shape[0] - t.ROWS_A_SECOND, rows.shape[0]) + 1
    found = [(total[ends] - total[ends - hops]) / hops for hops in (MOMENTARY, SHORT_TERM)]
    out = np.stack([*found, rows[-t.ROWS_A_SECOND :, t.TRUE_PEAK] ** 2], axis=1)
    return _fold(np.maximum(out, 0.0).reshape(columns, -1, 3))


def _fold(parts: Floats) -> Floats:
    return np.asarray(parts.max(axis=1))


def _shown(values: Floats) -> Floats:
    shown = lufs(values)
    shown[..., PEAK] = 10.0 * np.log10(np.maximum(values[..., PEAK], 1e-12))
    return shown


KIND = Kind(
    id="loudness",
    label="Loudness",
    help="How loud it is over 0.4 s and over 3 s, in LUFS, and the true peak in dBTP.",
    place=2,
    finest=t.ROWS_A_SECOND,
    rows=lambda settings, rate: ["last 0.4 s", "last 3 s", "true peak"],
    # A row depends on the second before it as well.
    reach=lambda settings, rate: ((SECONDS + 1) * rate, 0),
    second=_second,
    fold=_fold,
    shown=_shown,
    fraction=100,
    unit="LUFS",
)
