"""Stretching music: its pitch, its attacks and its stereo image stay.

The bass is stretched in longer frames than the rest, so that partials a few Hz apart are told from
one another there, while attacks stay sharp above.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy import fft
from scipy.ndimage import binary_opening, uniform_filter1d
from scipy.signal import firwin, oaconvolve

from bathyphon.core.curves import Floats
from bathyphon.core.speed.attacks import attacks_of, rising_bins
from bathyphon.core.speed.timemap import (
    TimeMap,
    fresh_frames,
    places_of,
    steady_map,
    stretched_length,
    targets_of,
)
from bathyphon.core.speed.vocoder import FRAME, Frames, Ints, resynthesize, window

BASS_FRAME = 16384
"""Samples of a frame that tells partials 15 Hz apart from one another, at 48 kHz."""
SPLIT_HZ = 400.0
SPLIT_TAPS = 2047
STEP = 4096
"""Samples from one look at the bass to the next."""
BASS_BINS = 192
"""Bins of a long frame that belong to the bass."""
ALIKE = 0.96
"""Likeness of two spectra half a long frame apart from which on the bass stands still."""
WHILE = 4
"""Steps for which it must."""
FADE = 2
"""Steps over which one kind of frames gives way to the other."""


def stretch_music(x: Floats, percent: float, sample_rate: int) -> Floats:
    """Play a sound at another speed and at its own pitch.

    Parameters
    ----------
    x : ndarray of float64, shape (channels, n)
    percent : float
        10 to 400.
    sample_rate : int

    Returns
    -------
    ndarray of float64, shape (channels, floor(100·n/percent + ½))
    """
    if percent == 100.0:
        return x.copy()
    length = stretched_length(x.shape[1], percent)
    attacks = attacks_of(x, sample_rate)
    targets = targets_of(attacks, percent)
    layout = Layout(percent, attacks, targets, length)
    bass, rest = split(x, sample_rate)
    long = steadiness(bass)
    # Where the bass stands still, long frames tell its partials apart; elsewhere short ones
    # follow it better, and nothing is gained by dividing the sound.
    map = steady_map(x.shape[1], percent, attacks, FRAME)
    share = _share(long, map, length)
    out = np.zeros((x.shape[0], length))
    if share.max(initial=0.0) > 0.0:
        out += (_band(bass, layout, BASS_FRAME) + _band(rest, layout, FRAME)) * share
    if length and share.min() < 1.0:
        out += _band(x, layout, FRAME) * (1.0 - share)
    return out


@dataclass(frozen=True)
class Layout:
    """What all bands of a stretched sound share."""

    percent: float
    attacks: Ints
    targets: Ints
    length: int


def _band(x: Floats, layout: Layout, frame: int) -> Floats:
    """One band, stretched in frames of one length."""
    length = layout.length
    map = steady_map(x.shape[1], layout.percent, layout.attacks, frame)
    frames = Frames(
        places_of(map, length, frame),
        fresh_frames(layout.targets, length, frame),
        rising_bins(x, layout.attacks, frame),
        frame,
    )
    return resynthesize(x, frames, length)


def steadiness(bass: Floats) -> NDArray[np.bool_]:
    """Whether the bass stands still around every ``STEP`` samples, shape (1 + n // STEP,).

    It does where its spectrum in long frames, one after the other, stays the same.
    """
    count = 1 + bass.shape[1] // STEP
    apart = BASS_FRAME // 2
    padded = np.pad(bass, ((0, 0), (BASS_FRAME, BASS_FRAME)))
    shape = window(BASS_FRAME)
    spectra = np.zeros((count + apart // STEP, BASS_BINS))
    for m in range(spectra.shape[0]):
        at = BASS_FRAME + m * STEP - apart // 2 - BASS_FRAME // 2
        frame = padded[:, at : at + BASS_FRAME]
        if frame.shape[1] == BASS_FRAME:
            found = np.abs(fft.rfft(frame * shape, axis=-1)[:, :BASS_BINS]) ** 2
            spectra[m] = np.sqrt(found.sum(axis=0))
    first, second = spectra[:count], spectra[apart // STEP :]
    size = np.sqrt((first**2).sum(axis=1) * (second**2).sum(axis=1))
    alike = (first * second).sum(axis=1) / np.maximum(size, 1e-9)
    still = alike > ALIKE
    # Only where it stands still for a while is it worth the change.
    return np.asarray(binary_opening(still, np.ones(WHILE), border_value=0))


def _share(long: NDArray[np.bool_], map: TimeMap, length: int) -> Floats:
    """How much of the long frames is heard at each sample of the output."""
    soft = uniform_filter1d(long.astype(float), FADE)
    at = map.at(np.arange(length, dtype=float))
    return np.asarray(np.interp(at, np.arange(long.size) * float(STEP), soft))


def split(x: Floats, sample_rate: int) -> tuple[Floats, Floats]:
    """Bass and the rest, which add up to the sound again."""
    taps = firwin(SPLIT_TAPS, SPLIT_HZ, window=("kaiser", 9.0), fs=sample_rate)
    half = SPLIT_TAPS // 2
    bass = oaconvolve(x, taps[None, :], axes=1)[:, half : half + x.shape[1]]
    return bass, x - bass
