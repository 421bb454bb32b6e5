"""Scales: which notes there are, and steps from one to another."""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.notes import SCALES


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

    Examples
    --------
    >>> steps_away(np.array([60.0, 62.0]), 2, 0, 'major').tolist()
    [4.0, 3.0]
    """
    step = nearest_step(notes, key, scale)
    there = note_of_step(step + degree, key, scale) - note_of_step(step, key, scale)
    return np.nan_to_num(there)


def pulled(notes: Floats, key: int, scale: str) -> Floats:
    """Semitones from notes to the nearest ones of a scale, 0 where there is no note.

    Examples
    --------
    >>> pulled(np.array([61.3]), 0, 'major').round(1).tolist()
    [0.7]
    """
    return np.nan_to_num(note_of_step(nearest_step(notes, key, scale), key, scale) - notes)


# How well each of twelve notes fits a key, from the first on (C. Krumhansl, E. Kessler,
# Psychological Review 89, 1982, from memory); the key is the one whose profile is most alike
# (C. Krumhansl, "Cognitive foundations of musical pitch", 1990, from memory).
_MAJOR = (6.35, 2.23, 3.48, 2.33, 4.38, 4.09, 2.52, 5.19, 2.39, 3.66, 2.29, 2.88)
_MINOR = (6.33, 2.68, 3.52, 5.38, 2.60, 3.53, 2.54, 4.75, 3.98, 2.69, 3.34, 3.17)


def key_of(notes: Floats) -> tuple[int, str] | None:
    """The key that notes are most likely in: 0 for C, and “major” or “minor”.

    Parameters
    ----------
    notes : ndarray of float64
        Semitones, evenly in time; what is no number is left out.

    Returns
    -------
    (int, str) or None
        None where there are fewer than three different notes.
    """
    heard = notes[np.isfinite(notes)]
    counts = np.bincount(np.round(heard).astype(int) % 12, minlength=12).astype(float)
    if (counts > 0).sum() < 3:
        return None
    likeness = {
        (key, name): float(np.corrcoef(np.roll(profile, key), counts)[0, 1])
        for name, profile in (("major", _MAJOR), ("minor", _MINOR))
        for key in range(12)
    }
    return max(likeness, key=lambda found: likeness[found])
