"""Tempo over time: a tempogram by autocorrelation, and the level at which beats are counted."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from scipy.fft import irfft, next_fast_len, rfft

from bathyphon.core.arrays import Floats
from bathyphon.core.measure.onsets import Novelty
from bathyphon.core.measure.tracking import track

SLOWEST, FASTEST = 50.0, 220.0
LIKELY = 118.0
SPREAD_OCTAVES = 0.9
_WINDOW_SECONDS = 10.0
_STEP_SECONDS = 2.0


def periods_of(n: Novelty, flux: Floats) -> Floats:
    """Period of the beat at every hop, in hops.

    Parameters
    ----------
    n : Novelty
    flux : ndarray, shape (n,)
        Its flux after :func:`evened`.
    """
    hops = n.rate / n.hop
    periods = _period_path(flux, hops)
    for run in _runs(periods):
        periods[run] *= _metrical_level(n, flux, periods, run, hops)
    return periods


def evened(n: Novelty) -> Floats:
    """Flux without its slow average, normalised, so that loud passages do not rule."""
    width = round(1.0 * n.rate / n.hop) | 1
    kernel = np.ones(width) / width
    mean = np.convolve(n.flux, kernel, mode="same")
    spread = np.sqrt(np.convolve(n.flux**2, kernel, mode="same"))
    floor = 0.1 * float(spread.max()) + 1e-9
    return np.maximum(0.0, n.flux - mean) / (spread + floor)


def _period_path(flux: Floats, hops: float) -> Floats:
    """Period in hops at every hop, by the best path through a tempogram."""
    slowest, fastest = round(hops * 60 / SLOWEST), round(hops * 60 / FASTEST)
    grid = np.geomspace(fastest, slowest, 12 * 24)
    window, step = round(_WINDOW_SECONDS * hops), round(_STEP_SECONDS * hops)
    starts = np.arange(0, max(1, flux.size - window // 2), step)
    prior = np.exp(-0.5 * (np.log2(grid * LIKELY / 60 / hops) / SPREAD_OCTAVES) ** 2)
    rows = []
    lags = 4 * slowest + 2
    shape = np.hanning(window)
    for start in starts:
        part = np.zeros(window)
        some = flux[start : start + window]
        part[: some.size] = some
        a = _autocorrelation((part - part.mean()) * shape, min(lags, window))
        a = np.pad(a, (0, lags - a.size))
        a = a / max(a[0], 1e-9)
        # A period is heard again after two, three and four of itself.
        score = sum(np.interp(grid * k, np.arange(lags), a) / k**0.5 for k in (1, 2, 4)) * prior
        rows.append(np.maximum(score, 0.0))
    path = _viterbi(np.array(rows), 0.6)
    centres = starts + window / 2
    return np.asarray(np.interp(np.arange(flux.size), centres, grid[path]))


def _autocorrelation(x: Floats, lags: int) -> Floats:
    size = next_fast_len(x.size + lags)
    spectrum = rfft(x, size)
    return np.asarray(irfft(spectrum.real**2 + spectrum.imag**2, size)[:lags])


def _viterbi(score: Floats, cost: float) -> NDArray[np.int64]:
    """Best path through rows of scores; a step of the grid costs little, a jump more."""
    count, states = score.shape
    scale = score.max() + 1e-9
    apart = np.abs(np.arange(states)[:, None] - np.arange(states)[None, :])
    penalty = cost * np.minimum(1.0, 0.08 * apart)
    total = score[0] / scale
    back = np.zeros((count, states), np.int64)
    for i in range(1, count):
        through = total[None, :] - penalty
        back[i] = through.argmax(axis=1)
        total = through[np.arange(states), back[i]] + score[i] / scale
    path = np.zeros(count, np.int64)
    path[-1] = int(total.argmax())
    for i in range(count - 1, 0, -1):
        path[i - 1] = back[i, path[i]]
    return path


def _runs(periods: Floats) -> list[slice]:
    """Stretches over which the period does not jump."""
    jumps = np.flatnonzero(np.abs(np.diff(np.log(periods))) > 0.0005)
    edges = [0]
    # A step between two windows is spread over the hops between them: cut in its middle.
    for group in np.split(jumps, np.flatnonzero(np.diff(jumps) > 1) + 1) if jumps.size else []:
        if abs(np.log(periods[group[-1] + 1] / periods[group[0]])) > 0.04:
            edges.append(int((group[0] + group[-1]) // 2))
    edges.append(periods.size)
    return [slice(a, b) for a, b in zip(edges, edges[1:], strict=False) if b > a]


def _metrical_level(n: Novelty, flux: Floats, periods: Floats, run: slice, hops: float) -> float:
    """Factor on the periods (½, 1 or 2) at which beats are strong and even.

    One that is twice too fast meets strong and weak events in turn; one twice too slow leaves
    out events as strong as those it meets.
    """
    best, chosen = -1.0, 1.0
    flux = flux[run]
    heard = [_blurred(flux), _blurred(n.low[run] / (float(n.low[run].max()) + 1e-9))]
    for factor in (0.5, 1.0, 2.0):
        middle = float(np.median(periods[run])) * factor
        if not hops * 60 / (FASTEST * 1.01) <= middle <= hops * 60 / (SLOWEST * 0.99):
            continue
        beats = track(flux, np.full(flux.size, middle))
        if beats.size < 8:
            continue
        even, contrast = np.mean([_evenness(part, beats) for part in heard], axis=0)
        tempo = 60 * hops / middle
        prior = np.exp(-0.5 * (np.log2(tempo / LIKELY) / SPREAD_OCTAVES) ** 2)
        score = np.sqrt(even) * (0.4 + contrast) * prior
        if score > best:
            best, chosen = float(score), factor
    return chosen


def _blurred(x: Floats) -> Floats:
    return np.convolve(x, [0.25, 0.5, 1.0, 0.5, 0.25], mode="same")


def _evenness(heard: Floats, beats: NDArray[np.int64]) -> tuple[float, float]:
    """How alike odd and even beats are, and how far what lies between them stands back."""
    on = heard[beats]
    halves = [float(np.mean(on[k::2])) for k in (0, 1)]
    between = float(np.mean(heard[(beats[:-1] + beats[1:]) // 2]))
    even = min(halves) / max(max(halves), 1e-9)
    return even, max(0.0, 1.0 - between / max(float(np.mean(on)), 1e-9))
