"""Levels of a stretch, read from its tally (:mod:`bathyphon.core.measure.tally`)."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.measure import tally as t
from bathyphon.core.measure.loudness import (
    MOMENTARY,
    SHORT_TERM,
    integrated,
    loudness_range,
    lufs,
    sliding,
)


@dataclass(frozen=True)
class Levels:
    """What a stretch measures; None where there is nothing to measure.

    Parameters
    ----------
    loudness : float or None
        Integrated, LUFS.
    range : float or None
        Loudness range, LU.
    momentary, short_term : float or None
        The largest over 400 ms and over 3 s, LUFS.
    true_peak, peak : float or None
        dBTP and dBFS.
    rms : float or None
        dBFS, mean over both sides.
    correlation : float or None
        Of left and right, −1 to 1.
    full : int
        Samples at full scale.
    """

    loudness: float | None
    range: float | None
    momentary: float | None
    short_term: float | None
    true_peak: float | None
    peak: float | None
    rms: float | None
    correlation: float | None
    full: int


def levels_of(rows: Floats) -> Levels:
    """Levels of the stretch that rows were written of.

    Parameters
    ----------
    rows : ndarray of float64, shape (n, :data:`~bathyphon.core.measure.tally.COLUMNS`)
    """
    if not len(rows):
        return Levels(*(None,) * 8, full=0)
    energies = rows[:, t.WEIGHTED]
    return Levels(
        integrated(energies),
        loudness_range(energies),
        _largest(energies, MOMENTARY),
        _largest(energies, SHORT_TERM),
        decibels(rows[:, t.TRUE_PEAK].max()),
        decibels(rows[:, [t.LEFT_PEAK, t.RIGHT_PEAK]].max()),
        decibels(math.sqrt(rows[:, [t.LEFT, t.RIGHT]].mean())),
        correlation(rows),
        int(rows[:, t.FULL].sum()),
    )


def correlation(rows: Floats) -> float | None:
    """Correlation of left and right over a stretch: Σlr / √(Σl²·Σr²)."""
    left, right, both = (float(rows[:, c].sum()) for c in (t.LEFT, t.RIGHT, t.BOTH))
    product = left * right
    return max(-1.0, min(1.0, both / math.sqrt(product))) if product > 1e-24 else None


def louder_by(rows: Floats, others: Floats) -> float | None:
    """By how many LU one sound is louder than another over the same stretch.

    Where one of them is silent, as far as the gate says, there is nothing to compare.
    """
    a, b = (integrated(r[:, t.WEIGHTED]) for r in (rows, others))
    if a is None or b is None:
        # What is shorter than 400 ms is compared by its power.
        a, b = (_ungated(r) for r in (rows, others))
    return None if a is None or b is None else a - b


def over(rows: Floats, ceiling_db: float) -> list[tuple[int, int]]:
    """Stretches, in rows, whose true peak lies above a ceiling; of rows side by side one."""
    high = rows[:, t.TRUE_PEAK] > 10.0 ** (ceiling_db / 20.0)
    edges = np.flatnonzero(np.diff(np.concatenate([[False], high, [False]]).astype(np.int8)))
    return [(int(a), int(b)) for a, b in edges.reshape(-1, 2)]


def decibels(amplitude: float) -> float | None:
    """Level of an amplitude, None for silence."""
    return 20.0 * math.log10(amplitude) if amplitude > 0 else None


def _largest(energies: Floats, hops: int) -> float | None:
    power = sliding(energies, hops)
    return float(lufs(power.max())) if power.size and power.max() > 0 else None


def _ungated(rows: Floats) -> float | None:
    power = float(rows[:, t.WEIGHTED].mean()) if len(rows) else 0.0
    return float(lufs(power)) if power > 1e-7 else None
