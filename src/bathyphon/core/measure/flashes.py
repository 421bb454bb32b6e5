"""Flashes: light that comes for a moment, after which the same picture is back."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import median_filter

from bathyphon.core.measure.likeness import Frames, moved_difference, plain_difference

FLASH_SECONDS = 0.5
# Frames before a flash that are compared with one another, and the most that counts of it.
APART = (4, 6, 9)
MOST_APART = 6.0
# Frames before a flash to which the picture may come back.
BEFORE = 3
# A picture is the same if it differs by no more of what neighbours differ by.
SAME = 1.4
# From here on a pixel is washed out; with fewer others nothing is left of the picture.
WASHED_OUT, LEFT = 250, 0.1
# Up to here it is black.
BLACK = 3
# Share of a difference that is light.
MOSTLY = 0.6
# Light that adds to a picture may also raise its contrast so far.
MOST_CONTRAST = 2.0


def usual(difference: NDArray[np.float64], fps: float) -> NDArray[np.float64]:
    """What usually changes from frame to frame, around each of them."""
    width = min(len(difference) | 1, round(fps) | 1)
    return np.asarray(median_filter(difference, width))


def flashes(
    frames: Frames, plain: NDArray[np.float64], moved: NDArray[np.float64], fps: float
) -> NDArray[np.bool_]:
    """Frames whose change belongs to a flash: from its first frame to the first one after it."""
    n = len(frames)
    plainly, noise = usual(plain, fps), usual(moved, fps)
    light = frames[:, :, :, 1].mean(axis=(1, 2))
    reach = max(4, round(FLASH_SECONDS * fps))
    flash = np.zeros(n, bool)
    i = 1
    while i < n:
        j = 0
        if plain[i] > 2.0 * plainly[i] + 4.0:
            calm = (float(plainly[i]), float(noise[i]))
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
    # Whether the same picture was lit where the light came.
    comes = _is_lit(frames, i - 1, i, noise)
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
        goes = _is_lit(frames, j, j - 1, noise)
        # The same shot on either side, wherever a pan has led meanwhile.
        if comes and goes:
            return j
        difference = _back(frames, i, j)
        # The very same, but for what changes from frame to frame anyway, needs no further proof:
        # a pan soon leads to where it can no longer be compared.
        if difference < alike:
            return j
        if (
            difference < like
            and (comes or goes or difference < _same(noise))
            and _stays(before, frames, plain, j, (0.5 * step, like, 1.5 * noise + 0.5))
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


def is_same_shot(frames: Frames, i: int, j: int, noise: float) -> bool:
    """Whether what lies from frame *i* to before frame *j* is the shot around it, lit.

    Either the picture that comes back is the very same, or where the light comes or goes it is
    the same picture but for that light: a pan may lead on during a flash, a brighter shot between
    two others is neither.

    Parameters
    ----------
    frames : ndarray of uint8, shape (n, 36, 64, 3)
    i, j : int
        First frame of the light, first frame after it.
    noise : float
        Usual difference of neighbours.
    """
    return (
        _back(frames, i, j) < _same(noise)
        or _is_lit(frames, i - 1, i, noise)
        or _is_lit(frames, j, j - 1, noise)
    )


def _same(noise: float) -> float:
    return SAME * (1.25 * noise + 0.5)


def _is_lit(frames: Frames, dark: int, lit: int, noise: float) -> bool:
    """Whether a frame is another one in more light, which is most of their difference."""
    brighter = float(frames[lit].mean()) - float(frames[dark].mean())
    if brighter < MOSTLY * plain_difference(frames[dark], frames[lit]):
        return False
    return _lit_difference(frames[dark], frames[lit]) < _same(noise)


def _back(frames: Frames, i: int, j: int) -> float:
    """How unlike frame *j* is to those just before frame *i*, at best.

    A pan may be lost sight of between two frames, and hardly ever between three pairs of them.
    """
    return min(moved_difference(frames[i - k], frames[j]) for k in range(1, min(i, BEFORE) + 1))


def _lit_difference(dark: Frames, lit: Frames) -> float:
    """How unlike a picture is to another one once that has the same light.

    Light moves all values along one line, up to where they are washed out. It is found from the
    values in order of size, which a pan hardly changes.
    """
    if np.mean(dark[:, :, 1] > BLACK) < LEFT:
        # Anything may come out of black.
        return np.inf
    x, y = (np.sort(frame[:, :, 1].ravel()).astype(float) for frame in (dark, lit))
    left = (x > BLACK) & (y < WASHED_OUT)
    gain, light = 1.0, 255.0
    if left.mean() >= LEFT:
        x, y = x[left], y[left]
        slope = np.mean((x - x.mean()) * (y - y.mean())) / max(float(x.var()), 1e-9)
        gain = float(np.clip(slope, 1.0, MOST_CONTRAST))
        light = float(y.mean() - gain * x.mean())
    made = np.clip(np.rint(gain * dark.astype(float) + light), 0, 255).astype(np.uint8)
    # Light shows what was lost in black.
    made = np.where(dark <= BLACK, np.minimum(made, lit), made)
    return moved_difference(made, lit)
