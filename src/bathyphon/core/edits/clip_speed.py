"""What becomes of a clip, as the document has it, when time goes by differently in it."""

from __future__ import annotations

from typing import Any

import numpy as np

from bathyphon.core.edits.shifts import fitted_fades, rebased
from bathyphon.core.reel.model import Clip
from bathyphon.core.reel.places import ClipPlaces

Part = dict[str, Any]
ROUNDED = 3
"""Samples of a medium by which the length of a clip, a whole number, may be off at 400 %."""
MOVING = ("gain_db", "treatment", "speed")
"""What of a clip may have keyframes."""


def plays_plainly(clip: Part) -> bool:
    """Whether a clip plays its medium as it was recorded."""
    return "speed" not in clip or Clip.model_validate(clip).speed.plain


def covered(clip: Part, sample_rate: int) -> int:
    """Samples of the medium that a clip plays."""
    found = ClipPlaces(Clip.model_validate(clip), sample_rate).covers()
    known = clip.get("speed", {}).get("source_length")
    # What has been fitted is known to the sample, unless the clip has been cut since.
    return int(known) if known and abs(known - found) <= ROUNDED else found


def place_at_start(clip: Part, sample_rate: int) -> int:
    """Place of the medium at which a clip begins."""
    return ClipPlaces(Clip.model_validate(clip), sample_rate).begins()


def clip_at_speed(clip: Part, percent: float, length: int, source: int, sample_rate: int) -> Part:
    """A clip that plays ``source`` samples of its medium in ``length``, at a constant speed.

    Its keyframes are scaled with it, unless they are pinned.
    """
    speed = {**clip.get("speed", {}), "percent": percent, "source_length": source}
    speed.pop("origin", None)
    factor = length / clip["length"]
    moving = {k: scaled(clip[k], factor) for k in MOVING[:2] if k in clip}
    speed |= {
        k: scaled(speed[k], factor) for k in ("semitones", "cents", "formant_shift") if k in speed
    }
    begins = place_at_start(clip, sample_rate)
    changed = {**clip, **moving, "speed": speed, "source_start": begins, "length": length}
    return fitted_fades(changed)


def clip_at_own_speed(clip: Part, sample_rate: int) -> Part:
    """A clip that plays the same sound at its own speed; what else is set of it stays."""
    if Clip.model_validate(clip).speed.at_own_speed:
        return _speed_without(clip, ("percent",))
    source = max(1, covered(clip, sample_rate))
    changed = clip_at_speed(clip, 100.0, source, source, sample_rate)
    return _speed_without(changed, ("percent", "source_length"))


def _speed_without(clip: Part, names: tuple[str, ...]) -> Part:
    """The clip without these fields of its speed, and without a speed that says nothing."""
    rest = {k: v for k, v in clip["speed"].items() if k not in names}
    return {**{k: v for k, v in clip.items() if k != "speed"}, **({"speed": rest} if rest else {})}


def scaled(value: Any, factor: float) -> Any:
    """The same value or chain with every keyframe so many times as far from its owner's start."""
    if isinstance(value, list):
        return [scaled(item, factor) for item in value]
    if not isinstance(value, dict) or value.get("pinned"):
        return value
    if isinstance(value.get("keyframes"), list):
        moved: list[Part] = []
        for frame in value["keyframes"]:
            at = round(frame["at"] * factor)
            # No two may fall into one.
            if moved:
                at = max(at, moved[-1]["at"] + 1)
            moved.append({**frame, "at": at})
        return {**value, "keyframes": moved}
    return {key: scaled(item, factor) for key, item in value.items()}


def window_of(clip: Part, by: int, sample_rate: int) -> Part:
    """A clip that begins ``by`` samples later, its sound and keyframes staying where they are."""
    moved = {k: rebased(clip[k], -by) for k in MOVING if k in clip}
    later = {**clip, **moved, "start": clip["start"] + by, "length": clip["length"] - by}
    if plays_plainly(clip):
        return {**later, "source_start": clip.get("source_start", 0) + by}
    later["speed"] = {k: v for k, v in later["speed"].items() if k != "source_length"}
    origin = clip["speed"].get("origin", 0) + by
    if origin >= 0:
        later["speed"]["origin"] = origin
        return later
    # Before the stream begins there is none: another one begins there.
    later["speed"].pop("origin", None)
    there = ClipPlaces(Clip.model_validate({**clip, "length": 1}), sample_rate)
    later["source_start"] = int(np.floor(there.at(np.array([float(by)]))[0]))
    return later


def shortened(clip: Part, length: int) -> Part:
    """A clip that ends elsewhere."""
    changed = {**clip, "length": length}
    if "speed" in clip:
        changed["speed"] = {k: v for k, v in clip["speed"].items() if k != "source_length"}
    return changed
