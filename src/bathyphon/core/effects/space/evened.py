"""Responses brought to one loudness, so that walking through places compares places."""

from __future__ import annotations

import math

import numpy as np

from bathyphon.core.arrays import Floats

SPEECH = (
    (125, -2.0),
    (250, 0.0),
    (500, 0.5),
    (1000, -6.5),
    (2000, -12.0),
    (4000, -15.5),
    (8000, -19.0),
)
"""Long-term spectrum of speech in dB by octaves (D. Byrne and others, "An international comparison
of long-term average speech spectra", JASA 96 (1994); rounded, from memory)."""


def evened(response: Floats, sample_rate: int) -> Floats:
    """A response scaled so that speech comes out of it as loud as it went in.

    Loudness is K-weighted power (ITU-R BS.1770) of noise with the spectrum of speech, the same on
    both sides, as a voice in the middle is.

    Parameters
    ----------
    response : ndarray of float64, shape (2, 2, n)
        By input and output side.
    sample_rate : int
    """
    n = 1 << max(12, math.ceil(math.log2(max(2, response.shape[2]))))
    hz = np.asarray(np.fft.rfftfreq(n, 1.0 / sample_rate)[1:], np.float64)
    weight = _speech(hz) * _k_weight(hz)
    # What the middle sends to each side.
    sides = np.abs(np.fft.rfft(response[0] + response[1], n, axis=1)[:, 1:]) ** 2
    out = float(np.sum(weight * sides.mean(axis=0)))
    if out <= 0.0:
        return response
    return response * math.sqrt(float(np.sum(weight)) / out)


def _speech(hz: Floats) -> Floats:
    octaves = np.log2([f for f, _ in SPEECH])
    levels = np.interp(np.log2(hz), octaves, [db for _, db in SPEECH], left=-30.0, right=-30.0)
    # As much in each octave as the table says: the power at a frequency falls as it rises.
    return np.asarray(10.0 ** (levels / 10.0) / hz)


def _k_weight(hz: Floats) -> Floats:
    """The weighting's power, from its two analogue prototypes: a shelf of 4 dB, a high pass."""
    s = 1j * hz
    shelf_hz, gain, q = 1681.97, 10.0 ** (4.0 / 20.0), 0.7072
    u = s / shelf_hz
    shelf = (gain * u * u + math.sqrt(gain) * u / q + 1.0) / (u * u + u / q + 1.0)
    v = s / 38.135
    high_pass = v * v / (v * v + v / 0.5003 + 1.0)
    return np.asarray(np.abs(shelf * high_pass) ** 2)
