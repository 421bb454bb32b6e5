"""Speech, music or a bed: told apart by how the sound moves.

Speech pauses and changes its spectrum with every syllable; music holds its partials; a bed does
neither. After E. Scheirer and M. Slaney, "Construction and evaluation of a robust multifeature
speech/music discriminator", ICASSP 1997, whose share of low-energy frames and whose spread of the
spectrum are among the measures here; the weights were fitted on speech in fifteen languages, music
and beds (``bench/material.py`` says on which, and how well they do).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.arrays import Floats

Material = Literal["speech", "music", "bed"]
MATERIALS: tuple[Material, ...] = ("speech", "music", "bed")
RATE = 16000
"""Samples a second of what is listened to."""
SHORTEST_SECONDS = 2.0
FRAME, LONG_FRAME = 512, 4096
LOWEST_HZ, HIGHEST_HZ, BANDS = 100.0, 7500.0, 18
FLOOR = 1e-4
"""Power below the loud frames' from which on a frame is not listened to."""


@dataclass(frozen=True)
class Likely:
    """What a sound most likely is.

    Parameters
    ----------
    material : {"speech", "music", "bed"}
    sure : float
        Probability that the measure gives it, 0 to 1.
    """

    material: Material
    sure: float


def likely(sound: NDArray[np.floating]) -> Likely | None:
    """What a sound most likely is; None of what is too short or silent.

    Parameters
    ----------
    sound : ndarray, shape (n,)
        One channel at :data:`RATE`.
    """
    found = features(np.asarray(sound, np.float64))
    if found is None:
        return None
    scores = WEIGHTS @ ((found - MEANS) / SPREADS) + OFFSETS
    shares = np.exp(scores - scores.max())
    shares /= shares.sum()
    best = int(np.argmax(shares))
    return Likely(MATERIALS[best], float(shares[best]))


def features(x: Floats) -> Floats | None:
    """Seven measures of how a sound moves; None of what is too short or silent.

    Returns
    -------
    ndarray of float64, shape (7,)
        Share of frames that are less than half as loud as the second around them; movement of the
        spectrum's shape over 100 ms; flatness of the spectrum, log₁₀; how far partials are held
        over a quarter of a second; movement of the spectrum's middle; spread of the level in dB;
        modulation at the rate of syllables, 2.5 to 8 Hz.
    """
    if x.size < SHORTEST_SECONDS * RATE:
        return None
    hop = FRAME // 2
    power = _power(x, FRAME, hop)
    hz = np.fft.rfftfreq(FRAME, 1 / RATE)
    edges = np.geomspace(LOWEST_HZ, HIGHEST_HZ, BANDS + 1)
    bands = np.stack(
        [
            power[:, (hz >= a) & (hz < b)].sum(axis=1)
            for a, b in zip(edges, edges[1:], strict=False)
        ],
        axis=1,
    )
    energy = bands.sum(axis=1)
    top = float(np.percentile(energy, 95))
    heard = energy > FLOOR * top
    if top <= 0 or heard.sum() < 16:
        return None
    a_second = RATE / hop
    rms = np.sqrt(energy)
    around = np.convolve(rms, np.ones(int(a_second)) / int(a_second), "same")
    sounding = around > 0.05 * np.percentile(around, 95)
    low = float(np.mean(rms[sounding] < 0.5 * around[sounding]))
    middle = (bands * np.sqrt(edges[1:] * edges[:-1])).sum(axis=1) / (energy + 1e-15)
    return np.array(
        [
            low,
            _movement(bands, heard, round(0.1 * a_second)),
            _flatness(power[:, (hz > 150) & (hz < 4000)][heard]),
            _held(x),
            float(np.std(np.log(middle[heard] + 1.0))),
            float(np.std(10 * np.log10(energy[heard] + 1e-15))),
            _syllables(rms / (rms[sounding].mean() + 1e-12), a_second),
        ]
    )


def _power(x: Floats, frame: int, hop: int) -> Floats:
    frames = np.lib.stride_tricks.sliding_window_view(x, frame)[::hop]
    return np.asarray(np.abs(np.fft.rfft(frames * np.hanning(frame), axis=1)) ** 2)


def _movement(bands: Floats, heard: NDArray[np.bool_], step: int) -> float:
    logs = np.log(bands + FLOOR * np.percentile(bands, 95, axis=0) + 1e-15)
    shape = logs - logs.mean(axis=1, keepdims=True)
    both = heard[step:] & heard[:-step]
    if not both.any():
        return 0.0
    return float(np.median(np.sqrt(np.mean((shape[step:] - shape[:-step]) ** 2, axis=1))[both]))


def _flatness(power: Floats) -> float:
    fine = power + 1e-15
    return float(np.median(np.mean(np.log10(fine), axis=1) - np.log10(np.mean(fine, axis=1))))


def _held(x: Floats) -> float:
    """Likeness of one long spectrum's partials to the next one's."""
    hz = np.fft.rfftfreq(LONG_FRAME, 1 / RATE)
    spectra = np.sqrt(_power(x, LONG_FRAME, LONG_FRAME // 2)[:, (hz > 80) & (hz < 3000)])
    logs = np.log(spectra + 1e-3 * spectra.max() + 1e-12)
    smooth = np.ones(31) / 31
    fine = logs - np.stack([np.convolve(row, smooth, "same") for row in logs])
    products = np.sum(fine[1:] * fine[:-1], axis=1)
    norms = np.sqrt(np.sum(fine[1:] ** 2, axis=1) * np.sum(fine[:-1] ** 2, axis=1)) + 1e-9
    return float(np.median(products / norms))


def _syllables(envelope: Floats, a_second: float) -> float:
    spectrum = np.abs(np.fft.rfft(envelope - envelope.mean())) ** 2
    hz = np.fft.rfftfreq(envelope.size, 1 / a_second)
    band = spectrum[(hz >= 2.5) & (hz < 8.0)].sum()
    return float(np.log10(band / (envelope.size**2 / 2) + 1e-4))


# Multinomial logistic regression, balanced by class, on standardised measures.
MEANS = np.array([0.1717, 1.436, -1.78, 0.4288, 0.4077, 5.8612, -1.4128])
SPREADS = np.array([0.2194, 0.6555, 1.1015, 0.2807, 0.2405, 3.6574, 0.8756])
WEIGHTS = np.array(
    [
        [0.479, 2.112, -0.485, 0.576, 0.827, 1.768, -0.331],
        [-2.057, 0.166, 0.676, 1.8, 0.221, -1.068, 1.01],
        [1.578, -2.278, -0.191, -2.376, -1.047, -0.7, -0.679],
    ]
)
OFFSETS = np.array([-2.442, 1.618, 0.824])
