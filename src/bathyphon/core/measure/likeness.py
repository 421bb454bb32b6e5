"""How unlike two small frames are, as they stand and after motion has been made good."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.compiled import njit

Frames = NDArray[np.uint8]
WIDTH, HEIGHT = 64, 36
BLOCK = 6
# Signed, so that differences cannot wrap.
_Signed = NDArray[np.int16]
REACH = 4


@njit(cache=True, nogil=True)
def _plain(a: _Signed, b: _Signed) -> float:  # pragma: no cover - compiled
    total = 0
    for y in range(a.shape[0]):
        for x in range(a.shape[1]):
            for c in range(3):
                total += abs(a[y, x, c] - b[y, x, c])
    return float(total / (a.shape[0] * a.shape[1] * 3.0))


@njit(cache=True, nogil=True)
def _profile_shift(
    a: NDArray[np.int64], b: NDArray[np.int64], reach: int
) -> int:  # pragma: no cover
    """Shift of b against a at which two brightness profiles agree best."""
    n = a.size
    best = -1.0
    where = 0
    for s in range(-reach, reach + 1):
        lo, hi = max(0, -s), min(n, n - s)
        total = 0.0
        mean = 0.0
        for i in range(lo, hi):
            mean += b[i + s] - a[i]
        mean /= hi - lo
        for i in range(lo, hi):
            total += abs(b[i + s] - a[i] - mean)
        # Less overlap is less evidence.
        total = total / (hi - lo) * (1.0 + 0.5 * abs(s) / n)
        if best < 0.0 or total < best:
            best = total
            where = s
    return where


@njit(cache=True, nogil=True)
def _residuals(
    a: _Signed, b: _Signed, dy0: int, dx0: int, out: NDArray[np.float64]
) -> None:  # pragma: no cover
    """Least difference of each block of b to a near the given shift."""
    h, w = a.shape[0], a.shape[1]
    k = 0
    for by in range(0, h, BLOCK):
        for bx in range(0, w - BLOCK + 1, BLOCK):
            best = out[k]
            for dy in range(dy0 - REACH, dy0 + REACH + 1):
                for dx in range(dx0 - REACH, dx0 + REACH + 1):
                    if by - dy < 0 or by - dy + BLOCK > h or bx - dx < 0 or bx - dx + BLOCK > w:
                        continue
                    total = 0
                    for y in range(by, by + BLOCK):
                        for x in range(bx, bx + BLOCK):
                            total += abs(b[y, x, 1] - a[y - dy, x - dx, 1])
                        if total >= best:
                            break
                    if total < best:
                        best = total
            out[k] = best
            k += 1


@njit(cache=True, nogil=True)
def _moved(a: _Signed, b: _Signed) -> float:  # pragma: no cover - compiled
    h, w = a.shape[0], a.shape[1]
    rows = np.zeros((2, h), np.int64)
    columns = np.zeros((2, w), np.int64)
    for y in range(h):
        for x in range(w):
            rows[0, y] += a[y, x, 1]
            rows[1, y] += b[y, x, 1]
            columns[0, x] += a[y, x, 1]
            columns[1, x] += b[y, x, 1]
    dy = _profile_shift(rows[0], rows[1], h // 3)
    dx = _profile_shift(columns[0], columns[1], w // 3)
    count = (h // BLOCK) * (w // BLOCK)
    out = np.full(count, 1e12)
    _residuals(a, b, 0, 0, out)
    if dx != 0 or dy != 0:
        _residuals(a, b, dy, dx, out)
    return float(np.median(out)) / (BLOCK * BLOCK)


def plain_difference(a: Frames, b: Frames) -> float:
    """Mean absolute difference of two frames of shape (36, 64, 3), 0 to 255."""
    return float(_plain(a.astype(np.int16), b.astype(np.int16)))


def moved_difference(a: Frames, b: Frames) -> float:
    """The same for the typical block after the best shift; small for pans and moving things."""
    return float(_moved(a.astype(np.int16), b.astype(np.int16)))


@njit(cache=True, nogil=True)
def _series(
    frames: _Signed, plain: NDArray[np.float64], moved: NDArray[np.float64]
) -> None:  # pragma: no cover
    for i in range(1, frames.shape[0]):
        plain[i] = _plain(frames[i - 1], frames[i])
        # Where next to nothing changes there is no motion to look for.
        moved[i] = plain[i] if plain[i] < 0.7 else _moved(frames[i - 1], frames[i])


def differences(frames: Frames) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Plain and moved difference of each frame to the one before it; the first is 0.

    Parameters
    ----------
    frames : ndarray of uint8, shape (n, 36, 64, 3)
    """
    plain, moved = np.zeros(len(frames)), np.zeros(len(frames))
    _series(frames.astype(np.int16), plain, moved)
    return plain, moved
