"""Hard cuts: changes that stand out against the frames around them; flashes, which come back."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import median_filter

from bathyphon.core.measure.likeness import Frames, moved_difference, plain_difference

FLASH_SECONDS = 0.5
BRIEF_SECONDS = 0.25
NEAR_SECONDS = 0.16
REPEATED_SECONDS = 0.5
REPEATED = 3
# No motion leaves so much over: however often it happens, these are different pictures.
ANOTHER_PICTURE = 10.0
# Frames before a flash that are compared with one another, and the most that counts of it.
APART = (4, 6, 9)
MOST_APART = 6.0


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


def flashes(
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
            calm = (float(usual[i]), float(noise[i]))
            j = _comes_back(frames, plain, light, i, min(n, i + reach + 1), calm)
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
    calm: tuple[float, float],
) -> int:
    """The frame at which the picture from before frame *i* is back; 0 if it stays away.

    ``calm`` holds what usually changes from frame to frame, plainly and after motion.
    """
    usual, noise = calm
    before = frames[i - 1]
    step = plain[i]
    alike = 1.25 * noise + 0.5
    # Frames some way apart differ more than neighbours do: what is fine falls between pixels.
    apart = max((moved_difference(before, frames[i - k]) for k in APART if k <= i), default=0.0)
    like = max(
        0.4 * moved_difference(before, frames[i]), alike, min(1.25 * apart + 0.5, MOST_APART)
    )
    dying = False
    for j in range(i + 1, stop):
        lit = light[i:j] - light[i - 1]
        if lit.min() < 3.0:
            return 0
        far = 0.2 * lit.max() + 4.0
        if abs(light[j] - light[i - 1]) > far:
            continue
        if plain[j] < 0.12 * step and not dying:
            continue
        # Its light may die away over frames, each a smaller step than the one before.
        falling = j + 1 < stop and plain[j + 1] >= min(0.12 * step, 2.0 * usual + 1.0)
        dying = bool(
            falling and abs(light[j + 1] - light[i - 1]) < abs(light[j] - light[i - 1]) - 2.0
        )
        if dying:
            continue
        if plain_difference(before, frames[j]) < 0.25 * step:
            return j
        difference = moved_difference(before, frames[j])
        # The very same, but for what changes from frame to frame anyway, needs no further proof:
        # a pan soon leads to where it can no longer be compared.
        if difference < alike:
            return j
        if difference < like and _stays(
            before, frames, plain, j, (0.5 * step, like, 1.5 * noise + 0.5)
        ):
            return j
    return 0


def _stays(
    before: Frames,
    frames: Frames,
    plain: NDArray[np.float64],
    j: int,
    bounds: tuple[float, float, float],
) -> bool:
    """Whether the picture stays back after frame *j*, until another flash at most.

    ``bounds`` are the change that is another flash, the difference to the picture before that is
    still the same picture, and the change from frame to frame that is usual: a pan that goes on
    as before may soon lead away from what was there before the flash.
    """
    another, like, calm = bounds
    for k in range(j + 1, min(len(frames), j + 4)):
        if plain[k] > another:
            return True
        away = moved_difference(before, frames[k]) > 1.15 * like
        if away and moved_difference(frames[k - 1], frames[k]) > calm:
            return False
    return True


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
