"""Cuts: where one shot ends and another begins.

A hard cut stands out against the frames around it, after motion has been made good, and the frames
behind it stay unlike those before; a flash comes back. A dissolve is recognised by what it is: a
frame within it is the weighted mean of the frames at its ends. Fades pass through an even, dark
frame.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import median_filter

from bathyphon.core.measure.found import Cut
from bathyphon.core.measure.likeness import (
    Frames,
    differences,
    moved_difference,
    plain_difference,
)

CHUNK = 1024
CONTEXT = 96
FLASH_SECONDS = 0.5
BRIEF_SECONDS = 0.25
DISSOLVE_SECONDS = (0.3, 0.6, 1.2, 2.2)
SOFT_LEAST_SECONDS = 0.16
BLACK_MEAN, BLACK_SPREAD = 24.0, 5.0


def find_cuts(
    chunks: Iterable[Frames], frames_per_second: float, sensitivity: float = 0.5
) -> Iterator[Cut]:
    """Yield the cuts of a picture in order.

    Parameters
    ----------
    chunks : iterable of ndarray of uint8, shape (n, 36, 64, 3)
        All its frames in order, made small.
    frames_per_second : float
    sensitivity : float
        0 finds only what is beyond doubt, 1 the slightest change; 0.5 is meant for films.
    """
    strictness = 2.0 ** (1.0 - 2.0 * sensitivity)
    held: list[Frames] = []
    count = origin = 0
    last = -1
    source = iter(chunks)
    done = False
    while not done:
        chunk = next(source, None)
        done = chunk is None
        if chunk is not None and len(chunk):
            held.append(chunk)
            count += len(chunk)
        lead = CONTEXT if origin else 0
        while count >= lead + CHUNK + CONTEXT or (done and count > lead):
            frames = np.concatenate(held)
            part = frames[: lead + CHUNK + CONTEXT]
            stop = len(part) if done and len(frames) <= len(part) else lead + CHUNK
            for cut in _cuts_of(part, frames_per_second, strictness):
                # What lies in the context is found again, with more around it, next time.
                if lead <= cut.frame < stop and origin - lead + cut.frame > last:
                    last = origin - lead + cut.frame
                    yield Cut(last, cut.length, cut.kind)
            origin += stop - lead
            rest = frames[max(0, stop - CONTEXT) :]
            held, count = [rest], len(rest)
            lead = min(CONTEXT, stop)
            if len(frames) <= len(part) and done:
                return


def _cuts_of(frames: Frames, fps: float, strictness: float) -> list[Cut]:
    plain, moved = differences(frames)
    hard = _hard_cuts(frames, plain, moved, fps, strictness)
    soft = _fades(frames, hard, fps)
    soft += _dissolves(frames, plain, moved, hard, soft, fps, strictness)
    hard = [h for h in hard if not any(_inside(h, s) for s in soft)]
    return sorted([Cut(h) for h in hard] + soft, key=lambda c: c.frame)


def _inside(frame: int, soft: Cut) -> bool:
    half = soft.length / 2 + 1
    return abs(frame - soft.frame) <= half


def _hard_cuts(
    frames: Frames,
    plain: NDArray[np.float64],
    moved: NDArray[np.float64],
    fps: float,
    strictness: float,
) -> list[int]:
    flash = _flashes(frames, plain, moved, fps)
    near = max(3, round(0.16 * fps))
    found: list[int] = []
    # A flash neither hides a cut beside it nor counts as one: its frames are left out.
    calm = np.flatnonzero(~flash)
    for k in range(1, calm.size):
        if _stands_out(plain[calm], moved[calm], k, near, strictness):
            found.append(int(calm[k]))
    light = frames[:, :, :, 1].mean(axis=(1, 2))
    return _without_lightning(found, light, round(BRIEF_SECONDS * fps))


def _without_lightning(found: list[int], light: NDArray[np.float64], brief: int) -> list[int]:
    """Drop pairs of cuts that hold a brief light between them: no shot is that short."""
    kept: list[int] = []
    for cut in found:
        if kept and cut - kept[-1] <= brief:
            first = kept[-1]
            lit = light[first:cut] - light[first - 1]
            if lit.min() > 3.0 and abs(light[cut] - light[first - 1]) < 0.35 * lit.max() + 4.0:
                kept.pop()
                continue
        kept.append(cut)
    return kept


def _flashes(
    frames: Frames, plain: NDArray[np.float64], moved: NDArray[np.float64], fps: float
) -> NDArray[np.bool_]:
    """Frames whose change belongs to a flash: from its first frame to the first one after it."""
    n = len(frames)
    width = min(n | 1, round(fps) | 1)
    usual, noise = median_filter(plain, width), median_filter(moved, width)
    light = frames[:, :, :, 1].mean(axis=(1, 2))
    reach = max(4, round(FLASH_SECONDS * fps))
    flash = np.zeros(n, bool)
    i = 1
    while i < n:
        j = 0
        if plain[i] > 2.0 * usual[i] + 4.0:
            j = _comes_back(frames, plain, light, i, min(n, i + reach + 1), float(noise[i]))
        if j:
            flash[i : j + 1] = True
        i = max(i, j) + 1
    return flash


def _comes_back(
    frames: Frames,
    plain: NDArray[np.float64],
    light: NDArray[np.float64],
    i: int,
    stop: int,
    noise: float,
) -> int:
    """The frame at which the picture from before frame *i* is back; 0 if it stays away."""
    before = frames[i - 1]
    step = plain[i]
    like = max(0.4 * moved_difference(before, frames[i]), 1.25 * noise + 0.5)
    for j in range(i + 1, stop):
        lit = light[i:j] - light[i - 1]
        if lit.min() < 3.0:
            return 0
        far = 0.2 * lit.max() + 4.0
        if plain[j] < 0.12 * step or abs(light[j] - light[i - 1]) > far:
            continue
        if plain_difference(before, frames[j]) < 0.25 * step:
            return j
        if moved_difference(before, frames[j]) < like and _stays(
            before, frames, plain, j, 0.5 * step, like
        ):
            return j
    return 0


def _stays(
    before: Frames,
    frames: Frames,
    plain: NDArray[np.float64],
    j: int,
    another: float,
    like: float,
) -> bool:
    """Whether the picture stays back after frame *j*, until another flash at most."""
    for k in range(j + 1, min(len(frames), j + 4)):
        if plain[k] > another:
            return True
        if moved_difference(before, frames[k]) > 1.15 * like:
            return False
    return True


def _stands_out(
    plain: NDArray[np.float64],
    moved: NDArray[np.float64],
    i: int,
    near: int,
    strictness: float,
) -> bool:
    """Whether the change at place *i* is a peak, in one of two ways."""

    def around(x: NDArray[np.float64]) -> float:
        sides = (slice(max(1, i - near), i), slice(i + 1, i + 1 + near))
        # The second largest of each side: another cut nearby must not hide this one.
        return max(float(np.sort(x[s])[-2]) if x[s].size > 1 else 0.0 for s in sides)

    p, m, p0, m0 = plain[i], moved[i], around(plain), around(moved)
    unlike = m > 3.2 * strictness and m > 2.4 * m0 and p > 1.15 * p0
    jump = (
        p > 2.4 * strictness
        and p > 2.8 * strictness**0.5 * p0
        and m > (1.25 if p < 4.0 * p0 else 1.08) * max(m0, 1.1 * strictness)
    )
    return bool(unlike or jump)


def _fades(frames: Frames, hard: list[int], fps: float) -> list[Cut]:
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


def _dissolves(
    frames: Frames,
    plain: NDArray[np.float64],
    moved: NDArray[np.float64],
    hard: list[int],
    fades: list[Cut],
    fps: float,
    strictness: float,
) -> list[Cut]:
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
