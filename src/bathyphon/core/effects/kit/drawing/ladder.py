"""Pitches as rungs of a ladder: one semitone each."""

from __future__ import annotations

import numpy as np

from bathyphon.core.effects.kit.drawing.model import Line, line
from bathyphon.core.words import signed

INTERVALS = (
    "unison", "minor second", "major second", "minor third", "major third", "fourth", "tritone",
    "fifth", "minor sixth", "major sixth", "minor seventh", "major seventh",
)  # fmt: skip


def interval_name(semitones: float) -> str:
    """What musicians call an interval: “major third up”, “octave and fifth down”.

    Cents that remain are added: “major third up +20 ct”.

    Examples
    --------
    >>> interval_name(-7.2)
    'fifth down −20 ct'
    """
    whole = round(semitones)
    cents = round(100.0 * (semitones - whole))
    octaves, rest = divmod(abs(whole), 12)
    words = []
    if octaves:
        words.append("octave" if octaves == 1 else "two octaves")
    if rest or not octaves:
        words.append(INTERVALS[rest])
    name = " and ".join(words)
    if whole:
        name += " up" if whole > 0 else " down"
    return f"{name} {signed(cents, 0)} ct" if cents else name


def rungs(low: float, high: float) -> tuple[Line, ...]:
    """Octaves and the direct sound as guides across."""
    return tuple(
        line(np.array([low, high]), np.array([float(y), float(y)]), "guide")
        for y in (-24, -12, 0, 12, 24)
    )
