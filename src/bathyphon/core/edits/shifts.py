"""What moves with a clip: its keyframes, and what lies after it on its track."""

from __future__ import annotations

from bisect import bisect_right
from itertools import accumulate
from operator import and_
from typing import Any

from bathyphon.core.timing.clock import Clock


def rebased(value: Any, by: int) -> Any:
    """The same value or chain with every keyframe ``by`` samples later from its owner's start."""
    if isinstance(value, list):
        return [rebased(item, by) for item in value]
    if not isinstance(value, dict):
        return value
    if isinstance(value.get("keyframes"), list):
        moved = [{**frame, "at": frame["at"] + by} for frame in value["keyframes"]]
        return {**value, "keyframes": moved}
    return {key: rebased(item, by) for key, item in value.items()}


class ClosedGaps:
    """Where things lie once gaps before them are closed.

    What lies on frames stays on frames, though frames may take different numbers of samples.

    Parameters
    ----------
    gaps : list of (int, int)
        Where each begins and ends; one that ends before it begins is opened instead.
    clock : Clock
    """

    def __init__(self, gaps: list[tuple[int, int]], clock: Clock) -> None:
        self._clock = clock
        gaps = sorted(gaps, key=lambda gap: gap[1])
        self._ends = [end for _, end in gaps]
        self._samples = list(accumulate((end - start for start, end in gaps), initial=0))
        framed = [clock.on_frame(start) and clock.on_frame(end) for start, end in gaps]
        self._framed = list(accumulate(framed, and_, initial=True))
        frame = clock.frame_of_sample
        self._frames = list(accumulate((frame(e) - frame(s) for s, e in gaps), initial=0))

    def place(self, at: int) -> int:
        """Where lies then what lies at a sample now."""
        before = bisect_right(self._ends, at)
        if self._framed[before] and self._clock.on_frame(at):
            return self._clock.move_by_frames(at, -self._frames[before])
        return at - self._samples[before]


def fitted_fades(clip: dict[str, Any]) -> dict[str, Any]:
    """A clip whose fades are no longer than itself; the fade-in has the first claim."""
    room = clip["length"]
    fitted = dict(clip)
    for key in ("fade_in", "fade_out"):
        fade = clip.get(key)
        if fade and fade.get("length", 0) > room:
            fitted[key] = {**fade, "length": room}
        room -= fitted.get(key, {}).get("length", 0)
    return fitted
