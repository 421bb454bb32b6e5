"""The level of a stretch over time, with treatments and without: what they do, tails included."""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.effects.kit.drawing.model import MOST_POINTS, Axis, Drawing, decibels, line
from bathyphon.core.words import signed

FLOOR_DB = -72.0


def waves(treated: Floats, untreated: Floats, sample_rate: int, before: int, after: int) -> Drawing:
    """Levels of both, as loud as the loudest of a piece.

    Parameters
    ----------
    treated, untreated : ndarray, shape (2, n)
    sample_rate : int
    before : int
        Samples of them that lie before the treatment's start; time is counted from there.
    after : int
        Samples that lie after its end: the ring-out.
    """
    n = treated.shape[1]
    piece = max(1, -(-n // (2 * MOST_POINTS)))
    t = (np.arange(-(-n // piece)) * piece - before) / sample_rate
    end = (n - before - after) / sample_rate
    facts = []
    rings = _level(treated[:, n - after :], piece) if after else np.zeros(0)
    bare = _level(untreated[:, n - after :], piece) if after else np.zeros(0)
    more = np.flatnonzero(rings > np.maximum(bare, FLOOR_DB) + 1.0)
    if more.size:
        seconds = (more[-1] + 1) * piece / sample_rate
        facts.append(f"heard for {seconds:.1f} s after its end")
    inside = slice(before, n - after)
    louder = _loudness(treated[:, inside]) - _loudness(untreated[:, inside])
    facts.insert(0, f"{signed(louder)} dB within it")
    return Drawing(
        Axis("Time", "s", float(t[0]), float(t[-1])),
        Axis("Level", "dB", FLOOR_DB, 0.0),
        (
            line(t, _level(untreated, piece), "before", "untreated"),
            line(np.array([0.0, 0.0]), np.array([FLOOR_DB, 0.0]), "guide"),
            line(np.array([end, end]), np.array([FLOOR_DB, 0.0]), "guide"),
            line(t, _level(treated, piece), "result"),
        ),
        facts=tuple(facts),
    )


def _level(sound: Floats, piece: int) -> Floats:
    count = -(-sound.shape[1] // piece)
    padded = np.zeros((2, count * piece))
    padded[:, : sound.shape[1]] = sound
    most = np.abs(padded.reshape(2, count, piece)).max(axis=(0, 2))
    return decibels(most, FLOOR_DB)


def _loudness(sound: Floats) -> float:
    return float(10.0 * np.log10(max(float(np.mean(sound**2)) if sound.size else 0.0, 1e-12)))
