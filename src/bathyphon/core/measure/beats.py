"""Beats: tempo and a grid that follows it.

A tempogram by autocorrelation gives the period over time; dynamic programming lays beats on the
onsets (D. P. W. Ellis, "Beat tracking by dynamic programming", J. New Music Research 36, 2007);
stretches of constant tempo are then fitted robustly to the precise onsets, which averages their
jitter away. Sound without a steady beat is told as such.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.arrays import Floats
from bathyphon.core.measure.found import Stretch
from bathyphon.core.measure.onsets import Novelty, Onsets, novelty, onsets
from bathyphon.core.measure.tempo import evened, periods_of
from bathyphon.core.measure.tracking import track

STEADY = 0.5
_NEAR_SECONDS = 0.030


@dataclass(frozen=True)
class BeatGrid:
    """Tempo and beats of a sound.

    Parameters
    ----------
    stretches : tuple of Stretch
        In order of time; empty if there is no steady beat.
    steadiness : float
        0 to 1: how much of the sound's onsets and beats fall together.
    rate : int
        Samples a second.
    """

    stretches: tuple[Stretch, ...]
    steadiness: float
    rate: int

    @property
    def tempo(self) -> float | None:
        """Beats a minute over the longest stretch; None without a steady beat."""
        if not self.stretches:
            return None
        longest = max(self.stretches, key=lambda s: s.count * s.period)
        return 60.0 * self.rate / longest.period

    def beats(self) -> NDArray[np.int64]:
        """All beats in samples, rising."""
        parts = [s.first + s.period * np.arange(s.count) for s in self.stretches]
        both = np.concatenate(parts) if parts else np.zeros(0)
        return np.asarray(np.rint(both), np.int64)


def find_beats(
    mono: NDArray[np.floating],
    rate: int,
    found: Novelty | None = None,
    starts: Onsets | None = None,
) -> BeatGrid:
    """Find tempo and beats.

    Parameters
    ----------
    mono : ndarray, shape (n,)
    rate : int
        Samples a second.
    found, starts : optional
        Novelty and onsets of the sound, if they are known already.
    """
    n = found or novelty(mono, rate)
    events = starts or onsets(mono, rate, n)
    none = BeatGrid((), 0.0, rate)
    if n.flux.size * n.hop < 4 * rate or events.at.size < 8:
        return none
    flux = evened(n)
    tracked = track(flux, periods_of(n, flux)).astype(np.float64) * n.hop
    stretches = _fit(tracked, events, rate)
    steadiness = _steadiness(stretches, events, mono.size, rate)
    if steadiness < STEADY:
        return BeatGrid((), steadiness, rate)
    return BeatGrid(_completed(stretches, mono.size), steadiness, rate)


def _nearest(events: NDArray[np.int64], places: Floats) -> tuple[NDArray[np.int64], Floats]:
    """Index of the event nearest to each place, and how far it lies behind it."""
    right = np.clip(np.searchsorted(events, places), 1, events.size - 1)
    left = right - 1
    index = np.where(places - events[left] <= events[right] - places, left, right)
    return index, events[index] - places


def _fit(tracked: Floats, events: Onsets, rate: int) -> list[Stretch]:
    """Stretches of constant tempo through the tracked beats, fitted to the onsets."""
    if tracked.size < 8:
        return []
    index, off = _nearest(events.at, tracked)
    weight = np.where(np.abs(off) < _NEAR_SECONDS * rate, events.strength[index], 0.0)
    times = np.where(weight > 0, tracked + off, tracked)
    pieces = _split(times, weight, 0, times.size, 0.012 * rate)
    fitted = [_regressed(times, weight, a, b, rate) for a, b in pieces]
    return _merged(fitted, times, weight, rate)


def _split(times: Floats, weight: Floats, a: int, b: int, limit: float) -> list[tuple[int, int]]:
    """Cut where one straight line does not pass through the beats, at the best knee."""
    if b - a < 16:
        return [(a, b)]
    k = np.arange(b - a, dtype=float)
    _, residual = _line(k, times[a:b], weight[a:b])
    if residual <= limit:
        return [(a, b)]
    best, knee = np.inf, -1
    for cut in range(8, b - a - 7, max(1, (b - a) // 120)):
        cost = sum(
            _line(k[p], times[a:b][p], weight[a:b][p])[1] ** 2 * (p.stop - p.start)
            for p in (slice(0, cut), slice(cut, b - a))
        )
        if cost < best:
            best, knee = cost, cut
    if knee < 0 or best > 0.5 * residual**2 * (b - a):
        return [(a, b)]
    left = _split(times, weight, a, a + knee, limit)
    return left + _split(times, weight, a + knee, b, limit)


def _line(k: Floats, t: Floats, w: Floats) -> tuple[tuple[float, float], float]:
    """Robust straight line through beats (k, t): ((offset, slope), weighted RMS residual)."""
    w = w + 1e-6
    a = b = 0.0
    scale = np.ones_like(w)
    square = np.zeros_like(t)
    for _ in range(6):
        v = w * scale
        share = v / v.sum()
        mk, mt = share @ k, share @ t
        off = k - mk
        away = share * off
        b = float((away @ (t - mt)) / max(away @ off, 1e-12))
        a = float(mt - b * mk)
        residual = t - a - b * k
        square = residual * residual
        size = max(float(share @ square), 1.0)
        scale = 1.0 / (1.0 + square / (2.25 * size))
    return (a, b), float(np.sqrt((w @ square) / w.sum()))


def _regressed(times: Floats, weight: Floats, a: int, b: int, rate: int) -> Stretch:
    """The straight line through a piece's beats, the far-off ones left out in the end."""
    k = np.arange(b - a, dtype=float)
    t, w = times[a:b], weight[a:b].copy()
    (offset, slope), _ = _line(k, t, w)
    for near in (0.02, 0.01, 0.006):
        close = np.abs(t - offset - slope * k) < near * rate
        if np.count_nonzero(close & (w > 0)) >= max(6, 0.25 * np.count_nonzero(w > 0)):
            (offset, slope), _ = _line(k, t, w * close)
    return Stretch(offset, slope, b - a)


def _merged(pieces: list[Stretch], times: Floats, weight: Floats, rate: int) -> list[Stretch]:
    """Neighbours that one line serves as well, put together."""
    done: list[Stretch] = []
    at = 0
    starts: list[int] = []
    for piece in pieces:
        if done and abs(piece.period / done[-1].period - 1) < 0.002:
            a = starts[-1]
            joined = _regressed(times, weight, a, at + piece.count, rate)
            end = joined.first + joined.period * (joined.count - piece.count)
            if abs(end - piece.first) < 0.015 * rate:
                done[-1] = joined
                at += piece.count
                continue
        starts.append(at)
        done.append(piece)
        at += piece.count
    return done


def _steadiness(pieces: list[Stretch], events: Onsets, samples: int, rate: int) -> float:
    """How far onsets and beats fall together, 0 to 1, above what chance would give."""
    if not pieces or events.at.size < 8:
        return 0.0
    grid = np.concatenate([p.first + p.period * np.arange(p.count) for p in pieces])
    near = 0.012 * rate
    _, off = _nearest(events.at, grid)
    sounding = _sounding(grid, events, rate)
    met = float(np.mean((np.abs(off) < near)[sounding])) if sounding.any() else 0.0
    # Among onsets taken at random, so many would lie as near by chance.
    density = events.at.size / max(1.0, samples)
    chance = 1.0 - np.exp(-2 * near * density)
    long = sum(p.count for p in pieces if p.count >= 16) / grid.size
    return float(max(0.0, (met - chance) / max(1e-6, 1.0 - chance)) * long)


def _sounding(grid: Floats, events: Onsets, rate: int) -> NDArray[np.bool_]:
    """Beats around which anything begins to sound; a pause says nothing about steadiness."""
    _, off = _nearest(events.at, grid)
    return np.abs(off) < 1.5 * rate


def _completed(pieces: list[Stretch], samples: int) -> tuple[Stretch, ...]:
    """The first and the last stretch go on to the ends of the sound; none overlaps the next."""
    out: list[Stretch] = []
    for i, piece in enumerate(pieces):
        first, count = piece.first, piece.count
        if i == 0:
            before = int(max(0.0, first) // piece.period)
            first -= before * piece.period
            count += before
        while first < 0 and count > 1:
            first += piece.period
            count -= 1
        end = pieces[i + 1].first - 0.5 * piece.period if i + 1 < len(pieces) else samples - 1.0
        count = max(1, int((end - first) // piece.period) + 1)
        out.append(Stretch(first, piece.period, count))
    return tuple(out)
