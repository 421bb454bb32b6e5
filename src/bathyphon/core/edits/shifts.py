"""What moves with a clip: its keyframes, and what lies after it on its track."""

from __future__ import annotations

from typing import Any

from bathyphon.core.clock import Clock


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


def moved_with_gap(at: int, gap_start: int, gap_end: int, clock: Clock) -> int:
    """Where something after a gap lies once the gap is closed.

    What lies on frames stays on frames, though frames may take different numbers of samples.
    """
    if all(clock.on_frame(place) for place in (at, gap_start, gap_end)):
        frames = clock.frame_of_sample(gap_end) - clock.frame_of_sample(gap_start)
        return clock.move_by_frames(at, -frames)
    return at - (gap_end - gap_start)


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
