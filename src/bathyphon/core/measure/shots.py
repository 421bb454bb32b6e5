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

from bathyphon.core.measure.flashes import flashes
from bathyphon.core.measure.found import Cut
from bathyphon.core.measure.hard_cuts import hard_cuts
from bathyphon.core.measure.likeness import Frames, differences
from bathyphon.core.measure.soft_cuts import dissolves, fades

CHUNK = 1024
CONTEXT = 96
BRIEF_SECONDS = 0.4


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
    flash = flashes(frames, plain, moved, fps)
    hard = hard_cuts(frames, plain, moved, flash, fps, strictness)
    soft = fades(frames, hard, fps)
    mixed = dissolves(frames, plain, moved, hard, soft, fps, strictness)
    soft += [cut for cut in mixed if not _is_light(cut, flash, fps)]
    hard = [h for h in hard if not any(_inside(h, s) for s in soft)]
    return sorted([Cut(h) for h in hard] + soft, key=lambda c: c.frame)


def _is_light(cut: Cut, flash: NDArray[np.bool_], fps: float) -> bool:
    """Whether a short dissolve is a flash that fades away."""
    first = cut.frame - cut.length // 2
    return cut.length < BRIEF_SECONDS * fps and bool(
        flash[max(0, first - 1) : first + cut.length].any()
    )


def _inside(frame: int, soft: Cut) -> bool:
    half = soft.length / 2 + 1
    return abs(frame - soft.frame) <= half
