"""Soft cuts: dissolves, whose frames are weighted means of their ends, and fades through black."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.measure.found import Cut
from bathyphon.core.measure.likeness import Frames, moved_difference

DISSOLVE_SECONDS = (0.3, 0.6, 1.2, 2.2)
SOFT_LEAST_SECONDS = 0.16
BLACK_MEAN, BLACK_SPREAD = 24.0, 5.0
EVEN = 0.4


def fades(frames: Frames, hard: list[int], fps: float) -> list[Cut]:
    """Passages through an even, dark frame that are no hard cuts."""
    flat = frames.reshape(len(frames), -1)[:, 1::3].astype(np.float32)
    mean, spread = flat.mean(axis=1), flat.std(axis=1)
    black = (mean < BLACK_MEAN) & (spread < BLACK_SPREAD)
    out: list[Cut] = []
    edges = np.flatnonzero(np.diff(np.concatenate([[False], black, [False]]).astype(int)))
    for a, b in zip(edges[::2], edges[1::2], strict=True):
        first = _ramp(spread, a, -1, fps)
        last = _ramp(spread, b - 1, 1, fps)
        if first == a and last == b - 1:
            continue
        if first == 0 or last >= len(frames) - 1:
            # The film's own fade from or to black is no cut.
            continue
        if any(first < h < last + 1 for h in hard):
            cuts = [h for h in hard if first < h < last + 1]
            # A hard cut to or from black is one; the fade on the other side belongs to it.
            if cuts:
                continue
        if spread[a:b].min() > EVEN * max(spread[first], spread[last]):
            # It is as dark before and after: a night, not a fade.
            continue
        middle = int((first + last + 1) // 2)
        out.append(Cut(middle, int(last - first + 1), "fade"))
    return out


def _ramp(spread: NDArray[np.floating], at: int, step: int, fps: float) -> int:
    """How far contrast goes on growing, away from a black frame."""
    end = at
    longest = round(3 * fps)
    while 0 <= end + step < len(spread) and abs(end + step - at) <= longest:
        ahead = end + 2 * step
        ahead = min(max(ahead, 0), len(spread) - 1)
        growth = max(spread[end + step], spread[ahead]) - spread[end]
        if growth < max(0.25, 0.012 * float(spread[end + step])):
            break
        end += step
    return end if abs(end - at) >= round(SOFT_LEAST_SECONDS * fps) else at


def dissolves(
    frames: Frames,
    plain: NDArray[np.float64],
    moved: NDArray[np.float64],
    hard: list[int],
    fades: list[Cut],
    fps: float,
    strictness: float,
) -> list[Cut]:
    """Dissolves away from the hard cuts and fades that are known already."""
    n = len(frames)
    small = frames[:, ::2, ::2].reshape(n, -1).astype(np.float32)
    score = np.zeros(n)
    reach = np.zeros(n, int)
    for seconds in DISSOLVE_SECONDS:
        half = max(3, round(seconds * fps / 2))
        if n <= 2 * half:
            continue
        c = np.arange(half, n - half)
        a, b, mid = small[c - half], small[c + half], small[c]
        apart = np.abs(b - a).mean(axis=1)
        mixed = np.abs(mid - 0.5 * (a + b)).mean(axis=1)
        quarter = half // 2
        early = np.abs(small[c - quarter] - (0.75 * a + 0.25 * b)).mean(axis=1)
        late = np.abs(small[c + quarter] - (0.25 * a + 0.75 * b)).mean(axis=1)
        worst = np.maximum(mixed, np.maximum(early, late))
        fit = np.where(apart > 9.0 * strictness, 1.0 - worst / (0.32 * apart + 1e-6), 0.0)
        better = fit > score[c]
        score[c] = np.where(better, fit, score[c])
        reach[c] = np.where(better, half, reach[c])
    out: list[Cut] = []
    taken = np.zeros(n, bool)
    for s in fades:
        taken[max(0, s.frame - s.length) : s.frame + s.length] = True
    for h in hard:
        taken[max(0, h - 2) : h + 2] = True
    for c in np.argsort(-score):
        if score[c] < 0.25:
            break
        half = int(reach[c])
        if taken[c - half // 2 : c + half // 2 + 1].any():
            continue
        span = slice(c - half + 1, c + half + 1)
        if moved[span].mean() < 0.5 * plain[span].mean():
            # Motion explains most of the change: a pan, in which frames mix as well.
            continue
        found = _dissolve_at(frames, small, int(c), half, fps, strictness)
        taken[max(0, c - half) : c + half + 1] = True
        if found and not any(abs(h - found.frame) <= found.length // 2 for h in hard):
            taken[max(0, found.frame - found.length) : found.frame + found.length] = True
            out.append(found)
    return out


def _dissolve_at(
    frames: Frames,
    small: NDArray[np.float32],
    c: int,
    half: int,
    fps: float,
    strictness: float,
) -> Cut | None:
    """The dissolve around frame *c*, if its two sides are different shots."""
    n = len(frames)
    a, b = max(0, c - half), min(n - 1, c + half)
    # In a slow drift whole pixels match now and then; different shots never do.
    ends = range(max(a + 1, b - half // 2), min(n, b + half // 2 + 1), max(1, half // 8))
    if min(moved_difference(frames[a], frames[e]) for e in ends) < 4.0 * strictness:
        return None
    way = small[b] - small[a]
    size = float(way @ way)
    span = np.arange(max(0, a - half), min(n, b + half + 1))
    share = (small[span] - small[a]) @ way / size
    # What a pan or a moving thing leaves over is not on the way from a to b.
    off = small[span] - small[a] - share[:, None] * way
    inside = (span >= a) & (span <= b)
    strange = float(np.sqrt(np.mean(np.square(off[inside]))) / np.sqrt(size / way.size))
    steady = np.diff(share[inside])
    if strange > 0.35 or np.mean(steady > 0) < 0.8 or steady.max() > 0.45:
        return None
    before = np.flatnonzero((share < 0.06) & (span < c))
    after = np.flatnonzero((share > 0.94) & (span > c))
    first = int(span[before[-1]]) + 1 if before.size else a
    last = int(span[after[0]]) - 1 if after.size else b
    length = last - first + 1
    if length < max(3, round(SOFT_LEAST_SECONDS * fps)):
        return None
    return Cut((first + last + 1) // 2, length, "dissolve")
