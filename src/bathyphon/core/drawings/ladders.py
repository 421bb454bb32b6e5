"""Pitches as rungs of a ladder: one semitone each."""

from __future__ import annotations

import numpy as np

from bathyphon.core.drawings.held import value
from bathyphon.core.drawings.model import Axis, Drawing, Grip, Line, Mark, line
from bathyphon.core.effects.base import Effect, Settings

TONE_HZ = 440.0
INTERVALS = (
    "unison", "minor second", "major second", "minor third", "major third", "fourth", "tritone",
    "fifth", "minor sixth", "major sixth", "minor seventh", "major seventh",
)  # fmt: skip


def interval_name(semitones: float) -> str:
    """What musicians call an interval: “major third up”, “octave and fifth down”.

    Cents that remain are added: “major third up +20 ct”.
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
    return f"{name} {cents:+d} ct" if cents else name


def _rungs(low: float, high: float) -> tuple[Line, ...]:
    """Octaves and the direct sound as guides across."""
    return tuple(
        line(np.array([low, high]), np.array([float(y), float(y)]), "guide")
        for y in (-24, -12, 0, 12, 24)
    )


def pitch(effect: Effect, now: Settings) -> Drawing:
    """One rung: the pitch, and beside it how far the formants are moved."""
    semitones = value(now, "semitones")
    own = semitones + 0.01 * value(now, "cents")
    formants = value(now, "formant_shift")
    held = now.choice("formants") == 1
    ratio = 2.0 ** (own / 12.0)
    size = 2.0 ** ((formants + (0.0 if held else own)) / 12.0)
    speaker = "as it is" if abs(size - 1.0) < 0.005 else f"{100.0 / size:.0f} % of the size"
    return Drawing(
        Axis("Formants", "st", -12.0, 12.0),
        Axis("Pitch", "st", -24.0, 24.0),
        _rungs(-12.0, 12.0),
        (Mark(0.0, 0.0, "direct", "before"),),
        (Grip(formants, semitones, "Pitch and formants", "formant_shift", "semitones"),),
        (
            f"{interval_name(own)}: {TONE_HZ:.0f} Hz becomes {TONE_HZ * ratio:.1f} Hz",
            f"The speaker: {speaker}",
        ),
    )


def voices(effect: Effect, now: Settings) -> Drawing:
    """Each voice on its rung, where it stands between left and right."""
    grips = []
    facts = []
    for i in range(now.entries("voices")):
        name = f"voices.{i}"
        semitones = value(now, f"{name}.semitones")
        own = semitones + 0.01 * value(now, f"{name}.cents")
        place = value(now, f"{name}.pan")
        grips.append(Grip(place, semitones, f"Voice {i + 1}", f"{name}.pan", f"{name}.semitones"))
        facts.append(f"{i + 1}: {interval_name(own)}, {value(now, f'{name}.gain_db'):.1f} dB")
    return Drawing(
        Axis("Pan", "", -100.0, 100.0),
        Axis("Pitch", "st", -24.0, 24.0),
        _rungs(-100.0, 100.0),
        (Mark(0.0, 0.0, "direct", "before"),),
        tuple(grips),
        tuple(facts) or ("No voices yet",),
    )
