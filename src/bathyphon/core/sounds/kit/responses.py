"""Spectra given as curves over frequency, and filters that have them at any place alike."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray
from scipy.fft import irfft, next_fast_len, rfft

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.chance import noise
from bathyphon.core.sounds.kit.rate import RATE

Curve = Callable[[Floats], Floats]
TAPS = 4096
LOWEST = 12.0
LONGEST_TAIL_S = 6.0
WORKERS = 2


def band(low: float, high: float, slope: float = 12.0) -> Curve:
    """A band with edges at −3 dB that fall by ``slope`` dB an octave (Butterworth magnitudes)."""
    order = slope / 6.0

    def curve(f: Floats) -> Floats:
        below = (low / f) ** (2 * order) if low > 0 else 0.0
        return np.asarray(1 / np.sqrt((1 + below) * (1 + (f / high) ** (2 * order))))

    return curve


def falling(db_per_octave: float, above: float) -> Curve:
    """Level up to a frequency, then falling by so many decibels an octave."""

    def curve(f: Floats) -> Floats:
        return np.asarray(10 ** (-db_per_octave / 20 * np.log2(np.maximum(1.0, f / above))))

    return curve


def peak(at: float, gain_db: float, octaves: float) -> Curve:
    """A bell around a frequency, as wide as so many octaves."""

    def curve(f: Floats) -> Floats:
        return np.asarray(10 ** (gain_db / 20 * np.exp(-((np.log2(f / at) / (octaves / 2)) ** 2))))

    return curve


def air(metres: float) -> Curve:
    """What air takes away over a distance.

    A power law through the values of ISO 9613-1 at 20 °C and 50 % humidity: 4.7 dB a kilometre
    at 1 kHz, 105 at 8 kHz.
    """

    def curve(f: Floats) -> Floats:
        return np.asarray(10 ** (-metres * 0.0047 * (f / 1000) ** 1.49 / 20))

    return curve


def times(*curves: Curve) -> Curve:
    """Several responses one after another."""

    def curve(f: Floats) -> Floats:
        product = np.ones_like(f)
        for one in curves:
            product = product * one(f)
        return product

    return curve


def impulse(curve: Curve, taps: int = TAPS) -> Floats:
    """A symmetric impulse response with a curve's magnitudes, shape (taps,)."""
    bins = np.fft.rfftfreq(taps, 1 / RATE)
    magnitudes = curve(np.maximum(bins, LOWEST))
    magnitudes[0] = 0.0
    return np.asarray(np.roll(irfft(magnitudes, taps), taps // 2) * np.hanning(taps))


def prompt(curve: Curve, taps: int = TAPS) -> Floats:
    """An impulse response with a curve's magnitudes that answers at once, shape (taps,).

    Minimum phase by way of the real cepstrum (Oppenheim & Schafer, *Discrete-Time Signal
    Processing*, §13): what is struck is not heard late.
    """
    size = 4 * taps
    bins = np.fft.rfftfreq(size, 1 / RATE)
    cepstrum = irfft(np.log(np.maximum(1e-5, curve(np.maximum(bins, LOWEST)))), size)
    cepstrum[1 : size // 2] *= 2
    cepstrum[size // 2 + 1 :] = 0
    return np.asarray(irfft(np.exp(rfft(cepstrum)), size)[:taps])


def filtered(sound: NDArray[np.floating], response: Floats) -> Floats:
    """A sound through an impulse response, without where it sets in.

    Parameters
    ----------
    sound : ndarray, shape (2, n + taps − 1)
        With as much before it as the response is long.
    response : ndarray, shape (taps,) or (2, taps)

    Returns
    -------
    ndarray, shape (2, n)
    """
    taps = response.shape[-1]
    size = next_fast_len(sound.shape[1], real=True)
    # What wraps round falls on the first samples, which are left out.
    one = np.float32
    spectrum = rfft(sound.astype(one), size, workers=WORKERS)
    spectrum *= rfft(np.atleast_2d(response).astype(one), size)
    whole = irfft(spectrum, size, workers=WORKERS, overwrite_x=True)
    return np.asarray(whole[:, taps - 1 : sound.shape[1]])


def tail(name: str, t60: float, treble_hz: float = 5000.0) -> Floats:
    """A diffuse room's impulse response, shape (2, n): noise that dies away (Moorer 1979).

    Power 1 in all; what lies above ``treble_hz`` is gone sooner.
    """
    count = round(min(LONGEST_TAIL_S, t60 * 1.2) * RATE)
    at = np.arange(count) / RATE
    low = filtered(noise(f"{name}/low", -TAPS + 1, count), impulse(band(80, treble_hz, 12)))
    high = filtered(noise(f"{name}/high", -TAPS + 1, count), impulse(band(treble_hz, 14000, 12)))
    fade = np.minimum(1.0, at / 0.004)
    whole = (low * 10 ** (-3 * at / t60) + high * 10 ** (-6 * at / t60)) * fade
    return np.asarray(whole / np.sqrt(np.mean(np.sum(whole**2, axis=1))))
