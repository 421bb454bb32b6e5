"""What a clip's speed means to the ear: the shift of pitch that goes with it, and what is natural.

The figures of advice are common practice; nothing is refused for them.
"""

from __future__ import annotations

import math
from dataclasses import asdict, dataclass
from typing import Any

from bathyphon.core.reel.model import Clip, Keyframes
from bathyphon.core.reel.places import ClipPlaces

BY_EAR = {110.0: -1.5, 125.0: -3.5}
"""Semitones that ears commonly dial in against a speed whose pitch follows."""
NATURAL, RUSHED = 110.0, 125.0
"""Percent up to which speech sounds natural, and from which on it sounds rushed."""
SUNG = (85.0, 120.0)
"""Percent of its length that a singer bears."""


@dataclass(frozen=True)
class Facts:
    """What is said of a clip's speed.

    Parameters
    ----------
    percent : float
        Speed; its mean where it moves.
    moves : bool
    shift : float
        Semitones that go with the speed if the pitch follows.
    exact, by_ear : float or None
        Semitones that undo it, to the cent; and what ears commonly choose, where that is known.
    source_samples : int
        Samples of the medium that are played.
    advice : str
        Empty where there is none.
    """

    percent: float
    moves: bool
    shift: float
    exact: float
    by_ear: float | None
    source_samples: int
    advice: str


def semitones_of(percent: float) -> float:
    """The equal-tempered shift of a speed: 12·log2(percent / 100).

    Examples
    --------
    >>> semitones_of(200.0)
    12.0
    """
    return 12.0 * math.log2(percent / 100.0)


def advice_on(percent: float, material: str) -> str:
    """One sentence, or nothing where a speed is natural."""
    if material == "voice":
        if percent > RUSHED:
            return f"Speech sounds rushed above {RUSHED:g} %."
        if percent > NATURAL:
            return f"Speech stays natural up to {NATURAL:g} to {RUSHED:g} %."
    length = 10000.0 / percent
    if not SUNG[0] <= length <= SUNG[1]:
        return (
            f"{length:.0f} % of the length: singing sounds natural "
            f"from {SUNG[0]:g} to {SUNG[1]:g} %."
        )
    return ""


def facts_of(clip: Clip, sample_rate: int) -> Facts:
    """What is said of a clip's speed."""
    moves = isinstance(clip.speed.percent, Keyframes)
    source = ClipPlaces(clip, sample_rate).covers()
    percent = 100.0 * source / clip.length
    if not isinstance(clip.speed.percent, Keyframes):
        percent = clip.speed.percent
    shift = semitones_of(percent) if percent > 0 else 0.0
    by_ear = next((st for speed, st in BY_EAR.items() if abs(percent - speed) < 0.5), None)
    advice = advice_on(percent, clip.speed.material) if percent > 0 else ""
    return Facts(percent, moves, shift, -shift, by_ear, source, advice)


def speeds(clips: list[Clip], sample_rate: int) -> dict[str, dict[str, Any]]:
    """What is said of all clips that do not play at their own speed, by their ids.

    The outlines of their maps are with it.
    """
    found = {}
    for clip in clips:
        if not clip.speed.at_own_speed:
            outline = ClipPlaces(clip, sample_rate).outline()
            found[clip.id] = {**asdict(facts_of(clip, sample_rate)), "outline": outline}
    return found
