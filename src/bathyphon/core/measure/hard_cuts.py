"""Hard cuts: changes that stand out against the frames around them."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.measure.flashes import is_same_shot, usual
from bathyphon.core.measure.likeness import Frames

BRIEF_SECONDS = 0.25
NEAR_SECONDS = 0.16
REPEATED_SECONDS = 0.5
REPEATED = 3
# No motion leaves so much over: however often it happens, these are different pictures.
ANOTHER_PICTURE = 10.0
# Frames.
SHORTEST_SHOT = 3


def hard_cuts(
    frames: Frames,
    plain: NDArray[np.float64],
    moved: NDArray[np.float64],
    flash: NDArray[np.bool_],
    fps: float,
    strictness: float,
) -> list[int]:
    """First frames of new shots.

    Parameters
    ----------
    frames : ndarray of uint8, shape (n, 36, 64, 3)
    plain, moved : ndarray, shape (n,)
        Differences of each frame to the one before it.
    flash : ndarray of bool, shape (n,)
        Frames that belong to flashes.
    fps : float
    strictness : float
        Factor on how much must change.
    """
    near = max(3, round(NEAR_SECONDS * fps))
    wide = max(4, round(REPEATED_SECONDS * fps))
    found: list[int] = []
    # A flash neither hides a cut beside it nor counts as one: its frames are left out.
    calm = np.flatnonzero(~flash)
    for k in range(1, calm.size):
        p, m = plain[calm], moved[calm]
        if _stands_out(p, m, k, near, strictness) and not _repeats(p, m, k, wide):
            found.append(int(calm[k]))
    return _without_lightning(found, frames, usual(moved, fps), round(BRIEF_SECONDS * fps))


def _without_lightning(
    found: list[int], frames: Frames, noise: NDArray[np.float64], brief: int
) -> list[int]:
    """Drop pairs of cuts that hold a brief light between them, if the picture comes back."""
    light = frames[:, :, :, 1].mean(axis=(1, 2))
    kept: list[int] = []
    for cut in found:
        if kept and cut - kept[-1] <= brief:
            first = kept[-1]
            lit = light[first:cut] - light[first - 1]
            brief_light = (
                lit.min() > 3.0 and abs(light[cut] - light[first - 1]) < 0.35 * lit.max() + 4.0
            )
            if brief_light and is_same_shot(frames, first, cut, float(noise[first])):
                kept.pop()
                continue
        kept.append(cut)
    return kept


def _repeats(plain: NDArray[np.float64], moved: NDArray[np.float64], i: int, wide: int) -> bool:
    """Whether the like happens again and again: animation holds each drawing for some frames."""
    span = slice(max(1, i - wide), i + wide + 1)
    if moved[i] > ANOTHER_PICTURE:
        return False
    again = (plain[span] > 0.45 * plain[i]) & (moved[span] > 0.45 * moved[i])
    return int(np.count_nonzero(again)) > REPEATED


def _stands_out(
    plain: NDArray[np.float64],
    moved: NDArray[np.float64],
    i: int,
    near: int,
    strictness: float,
) -> bool:
    """Whether the change at place *i* is a peak among those around it."""
    sides = (slice(max(1, i - near), i), slice(i + 1, i + 1 + near))
    # Another cut nearby must not hide this one.
    if _is_peak(plain, moved, i, _ranked(plain, moved, sides, 2), strictness):
        return True
    if moved[i] <= ANOTHER_PICTURE:
        return False
    # In a montage there are many, but within each of its shots next to nothing changes.
    within = SHORTEST_SHOT - 1
    calm = (slice(max(1, i - within), i), slice(i + 1, i + 1 + within))
    others = _ranked(plain, moved, sides, 1 + -(-near // SHORTEST_SHOT))
    beside = _ranked(plain, moved, calm, 1)
    most = (max(others[0], beside[0]), max(others[1], beside[1]))
    return _is_peak(plain, moved, i, most, strictness)


def _ranked(
    plain: NDArray[np.float64],
    moved: NDArray[np.float64],
    sides: tuple[slice, slice],
    rank: int,
) -> tuple[float, float]:
    """The first, second, … largest change of either kind, of the side where it is larger."""

    def of(x: NDArray[np.float64]) -> float:
        return max(float(np.sort(x[s])[-rank]) if x[s].size >= rank else 0.0 for s in sides)

    return of(plain), of(moved)


def _is_peak(
    plain: NDArray[np.float64],
    moved: NDArray[np.float64],
    i: int,
    around: tuple[float, float],
    strictness: float,
) -> bool:
    """Whether the change at place *i* is one, in one of two ways."""
    p, m = plain[i], moved[i]
    p0, m0 = around
    unlike = m > 3.2 * strictness and m > 2.4 * m0 and p > 1.15 * p0
    jump = (
        p > 2.4 * strictness
        and p > 2.8 * strictness**0.5 * p0
        and m > (1.25 if p < 4.0 * p0 else 1.08) * max(m0, 1.1 * strictness)
    )
    return bool(unlike or jump)
