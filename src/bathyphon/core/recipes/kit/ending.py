"""Ending a clip where the playhead is, and letting its last frames ring."""

from __future__ import annotations

import math
from typing import Any

from bathyphon.core.edits.here import Stretch
from bathyphon.core.errors import Refused
from bathyphon.core.recipes.kit.plan import Plan
from bathyphon.core.recipes.kit.scene import Scene

NEAR = 12
"""Frames within which the playhead means the cut or the end beside it."""
NEAR_BEAT = 4
"""The same of beats, of which there is always one not far away."""
LOUDEST_DB = 12.0
STEADY_DB = -2.5
"""Level of a room at mix 50 that is fed for long, beside the sound that feeds it (measured)."""


def ending(scene: Scene, clip: dict[str, Any], on_beats: bool = False) -> int:
    """Where it is to end: at a cut or the clip's end near the playhead, or before a beat that is
    nearer still if they count, else at the playhead."""
    first, last = int(clip["start"]), int(clip["start"] + clip["length"])
    at, near = scene.place.at, scene.samples(NEAR)
    if not first < at <= last + near:
        return last
    cuts = [scene.clock.sample_of_frame(c) for c in scene.cuts()]
    beats = scene.beats(clip["id"]) if on_beats else []
    for places, far in (((*cuts, last), near), (beats, scene.samples(NEAR_BEAT))):
        close = [p for p in places if abs(p - at) <= far and first < p <= last]
        if close:
            return min(close, key=lambda p: abs(p - at))
    return min(at, last)


def ring_out(
    scene: Scene,
    plan: Plan,
    clip: dict[str, Any],
    track: str,
    end: int,
    decay: float,
    frames: tuple[int, int] = (15, 4),
) -> None:
    """End a clip and let its last frames ring.

    Parameters
    ----------
    clip : dict
    track : str
        Id of its track.
    end : int
        The sample before which it ends.
    decay : float
        Seconds in which the room falls by 60 dB.
    frames : tuple of int
        How many of the last frames go into the room, and over how many the direct sound fades.
    """
    length = end - clip["start"]
    capture, fade = (scene.samples(count) for count in frames)
    if length < max(capture, fade, 1):
        raise Refused(
            f"only {scene.frames(length):.0f} frames of “{clip.get('name', clip['id'])}” are left "
            f"before it ends; it takes {max(frames)}"
        )
    plan.set_clip(clip["id"], length=length, fade_out={"length": fade, "shape": "equal_power"})
    # A room that is fed for a moment only has not come to its full level, and what it was fed
    # before the sound began to fade has begun to die away.
    rate = scene.clock.sample_rate
    filled = 1 - 10 ** (-6 * (capture - capture // 6 - fade / 2) / rate / decay)
    gone = 60 * fade / 2 / rate / decay
    level = min(LOUDEST_DB, gone - 10 * math.log10(max(1e-3, filled)) - STEADY_DB)
    room = {
        "decay_s": decay, "size": 130.0, "predelay_ms": 0.0, "mix": 50.0,
        "level_db": round(level, 1), "dry_db": round(-level, 1), "low_cut_hz": 60.0,
    }  # fmt: skip
    plan.treat(
        track, Stretch(end - capture, end), [{"kind": "reverb", "params": room}],
        ramp_in=capture // 3,
    )  # fmt: skip
    plan.span = Stretch(max(0, end - 2 * rate), end + round(decay * rate))
