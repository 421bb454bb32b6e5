"""The pitch of a clip as it is heard, at its speed and with its shift."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.notes import NOTES
from bathyphon.core.dsp.pitch import Contour, contour_of, note_name
from bathyphon.core.dsp.scales import key_of
from bathyphon.core.engine.speeds import speed_change_of
from bathyphon.core.reel.model import Clip
from bathyphon.core.reel.places import ClipPlaces

LONGEST_S = 90.0
"""Seconds of a medium that are looked at, at most."""
MOST_POINTS = 1500


@dataclass(frozen=True)
class HeardPitch:
    """Pitch over a stretch of a clip.

    Parameters
    ----------
    points : list of [float, float or None]
        Samples from the clip's start, and notes (69 for 440 Hz); None where there is no pitch.
    median, low, high : str
        Notes by name; empty where there is none.
    low_note, high_note : float
        The range that is drawn.
    key : str
        The key that the notes are most likely in; empty where there is none.
    """

    points: list[list[float | None]]
    median: str
    low: str
    high: str
    low_note: float
    high_note: float
    key: str


def heard_pitch(
    clip: Clip, read: Callable[[int, int], Floats], start: int, end: int, sample_rate: int
) -> HeardPitch:
    """The pitch of a stretch of a clip.

    Parameters
    ----------
    clip : Clip
    read : callable
        Samples from … to of its medium, shape (2, n).
    start, end : int
        Samples from the clip's start.
    sample_rate : int
    """
    places = ClipPlaces(clip, sample_rate)
    first, last = places.at(np.array([float(start), float(end)]))
    begins = int(np.floor(first))
    ends = min(int(np.ceil(last)), begins + round(LONGEST_S * sample_rate))
    found = contour_of(read(begins, max(ends, begins + 1)).sum(axis=0) * 0.5, sample_rate)
    at = places.when(begins + found.at.astype(float)) if found.at.size else np.zeros(0)
    ratio = speed_change_of(clip.speed).ratio(sample_rate)
    origin = clip.speed.origin
    speeds = np.array([ratio.speeds(int(t) + origin, 1)[0] for t in at])
    notes = found.notes + 12.0 * np.log2(np.maximum(speeds, 1e-6))
    heard = Contour(found.at, notes)
    median, span = heard.median, heard.range
    every = max(1, -(-at.size // MOST_POINTS))
    points: list[list[float | None]] = [
        [round(float(t)), round(float(n), 2) if np.isfinite(n) else None]
        for t, n in zip(at[::every], notes[::every], strict=True)
    ]
    if median is None or span is None:
        return HeardPitch(points, "", "", "", 0.0, 0.0, "")
    low, high = (note_name(float(round(note))) for note in span)
    key = key_of(notes)
    named = f"{NOTES[key[0]]} {key[1]}" if key else ""
    return HeardPitch(points, note_name(median), low, high, span[0], span[1], named)
