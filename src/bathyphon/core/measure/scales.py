"""Scales: which notes there are, and steps from one to another."""

from __future__ import annotations

import numpy as np

from bathyphon.core.curves import Floats

SCALES: dict[str, tuple[int, ...]] = {
    "chromatic": tuple(range(12)),
    "major": (0, 2, 4, 5, 7, 9, 11),
    "minor": (0, 2, 3, 5, 7, 8, 10),
    "harmonic minor": (0, 2, 3, 5, 7, 8, 11),
    "pentatonic": (0, 2, 4, 7, 9),
    "whole tones": (0, 2, 4, 6, 8, 10),
    "one note": (0,),
}


def nearest_step(notes: Floats, key: int, scale: str) -> Floats:
    """Numbers of the steps of a scale nearest to notes; step 0 is the key's lowest note.

    Parameters
    ----------
    notes : ndarray of float64
        Semitones; what is no number stays none.
    key : int
        0 for C to 11 for B.
    scale : str
        One of :data:`SCALES`.
    """
    degrees = np.array([*SCALES[scale], 12.0])
    known = np.where(np.isfinite(notes), notes, 0.0) - key
    octave = np.floor(known / 12.0)
    within = known - 12.0 * octave
    step = np.argmin(np.abs(within[..., None] - degrees), axis=-1)
    return np.where(np.isfinite(notes), octave * (degrees.size - 1) + step, np.nan)


def note_of_step(steps: Floats, key: int, scale: str) -> Floats:
    """Notes of steps of a scale."""
    degrees = np.array(SCALES[scale], float)
    known = np.where(np.isfinite(steps), steps, 0.0)
    octave = np.floor(known / degrees.size)
    index = (known - octave * degrees.size).astype(int)
    return np.where(np.isfinite(steps), key + 12.0 * octave + degrees[index], np.nan)


def steps_away(notes: Floats, degree: int, key: int, scale: str) -> Floats:
    """Semitones from a scale's notes to those so many of its steps away, 0 where there is no note.

    A singer's own deviation from the note is kept.
    """
    step = nearest_step(notes, key, scale)
    there = note_of_step(step + degree, key, scale) - note_of_step(step, key, scale)
    return np.nan_to_num(there)


def pulled(notes: Floats, key: int, scale: str) -> Floats:
    """Semitones from notes to the nearest ones of a scale, 0 where there is no note."""
    return np.nan_to_num(note_of_step(nearest_step(notes, key, scale), key, scale) - notes)
