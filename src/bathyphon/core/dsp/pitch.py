"""The pitch of a voice or an instrument over time.

A. de Cheveigné, H. Kawahara, "YIN, a fundamental frequency estimator for speech and music", JASA
111 (2002), steps 1 to 5 (from memory), its difference function by Fourier transforms.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy import fft

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.notes import NOTES
from bathyphon.core.words import signed

LOWEST_HZ, HIGHEST_HZ = 55.0, 1200.0
SPAN_S = 0.025
"""Stretch of sound whose likeness to itself is looked at."""
HOP_S = 0.01
CLEAR = 0.15
"""Unlikeness, normalised, below which there is a pitch."""
QUIET = 1e-8
"""Mean power below which there is none."""
A4_HZ, A4 = 440.0, 69.0
AT_ONCE = 512
"""Frames that are looked at together."""


def sizes(sample_rate: int) -> tuple[int, int, int]:
    """Samples of the stretch that is compared, the longest period, and the step between looks."""
    return (
        round(SPAN_S * sample_rate),
        int(sample_rate / LOWEST_HZ) + 2,
        round(HOP_S * sample_rate),
    )


def reach(sample_rate: int) -> int:
    """Samples on each side of a moment that decide its pitch."""
    span, longest, _ = sizes(sample_rate)
    return (span + longest) // 2 + 1


def pitch_at(x: Floats, middles: NDArray[np.int64], sample_rate: int) -> Floats:
    """Pitch in Hz around each of some samples, 0 where there is none.

    Parameters
    ----------
    x : ndarray of float64, shape (n,)
        Holds :func:`reach` samples on each side of all of them.
    middles : ndarray of int64
        Samples of ``x``.
    sample_rate : int
    """
    out = np.zeros(middles.size)
    for first in range(0, middles.size, AT_ONCE):
        part = slice(first, first + AT_ONCE)
        out[part] = _pitches(x, middles[part], sample_rate)
    return out


def _pitches(x: Floats, middles: NDArray[np.int64], sample_rate: int) -> Floats:
    span, longest, _ = sizes(sample_rate)
    shortest = int(sample_rate / HIGHEST_HZ)
    frames = np.lib.stride_tricks.sliding_window_view(x, span + longest)[
        middles - (span + longest) // 2
    ]
    size = fft.next_fast_len(span + longest)
    spectrum = fft.rfft(frames, size, axis=1)
    head = fft.rfft(frames[:, :span], size, axis=1)
    both = fft.irfft(spectrum * head.conj(), size, axis=1)[:, :longest]
    energy = np.cumsum(np.pad(frames**2, ((0, 0), (1, 0))), axis=1)
    own = energy[:, span : span + longest] - energy[:, :longest]
    unlike = np.maximum(own[:, :1] + own - 2.0 * both, 0.0)
    mean = np.cumsum(unlike[:, 1:], axis=1) / np.arange(1, longest)
    normal = np.ones_like(unlike)
    normal[:, 1:] = unlike[:, 1:] / np.maximum(mean, 1e-12)
    loud = own[:, 0] > QUIET * span
    out = np.zeros(middles.size)
    for m in np.flatnonzero(loud):
        d = normal[m]
        below = np.flatnonzero(d[shortest : longest - 1] < CLEAR)
        if not below.size:
            continue
        k = shortest + int(below[0])
        # Down to the bottom of the first dip that is deep enough.
        while k + 1 < longest - 1 and d[k + 1] < d[k]:
            k += 1
        a, b, c = d[k - 1], d[k], d[k + 1]
        curve = a - 2.0 * b + c
        out[m] = sample_rate / (k + (0.5 * (a - c) / curve if curve > 1e-12 else 0.0))
    return out


def note_of(hz: Floats) -> Floats:
    """Notes as numbers of semitones, 69 for 440 Hz; not a number where there is no pitch."""
    return np.where(hz > 0.0, A4 + 12.0 * np.log2(np.maximum(hz, 1e-9) / A4_HZ), np.nan)


def note_name(note: float) -> str:
    """A note by its name and octave, and the cents beside it: “A3 +12 ct”.

    Examples
    --------
    >>> note_name(69.0)
    'A4'
    """
    whole = round(note)
    cents = round(100.0 * (note - whole))
    name = f"{NOTES[whole % 12]}{whole // 12 - 1}"
    return f"{name} {signed(cents, 0)} ct" if cents else name


@dataclass(frozen=True)
class Contour:
    """Pitch over time.

    Parameters
    ----------
    at : ndarray of int64
        Samples.
    notes : ndarray of float64
        Semitones, 69 for 440 Hz; not a number where there is no pitch.
    """

    at: NDArray[np.int64]
    notes: Floats

    @property
    def median(self) -> float | None:
        """The middle note; None where there is no pitch at all."""
        heard = self.notes[np.isfinite(self.notes)]
        return float(np.median(heard)) if heard.size else None

    @property
    def range(self) -> tuple[float, float] | None:
        """Lowest and highest notes, a twentieth of each left out."""
        heard = self.notes[np.isfinite(self.notes)]
        if not heard.size:
            return None
        low, high = np.percentile(heard, (5, 95))
        return float(low), float(high)


def contour_of(x: Floats, sample_rate: int) -> Contour:
    """The pitch of a sound, every hundredth of a second.

    Parameters
    ----------
    x : ndarray of float64, shape (n,)
    sample_rate : int
    """
    around = reach(sample_rate)
    at = np.arange(0, x.size, sizes(sample_rate)[2])
    hz = pitch_at(np.pad(x, around + 1), at + around + 1, sample_rate)
    return Contour(at, note_of(hz))
