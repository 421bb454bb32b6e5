"""Impulse responses of things that ring: a plate, a spring, a pipe, a barrel."""

from __future__ import annotations

import math

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.effects.space.places import BODY_SECONDS

SPEED_OF_SOUND = 343.4
# Where a ringing mode is left: 100 dB below its beginning.
FAINT = 1e-5


def plate_response(sample_rate: int) -> Floats:
    """A thin steel plate, held at its edges, struck and heard at two places each; (2, 2, n).

    Modes f = (π/2)·κ·((m/a)² + (n/b)²) of a simply supported plate (N. H. Fletcher and T. D.
    Rossing, *The Physics of Musical Instruments*, 1991); the damping rises with frequency.
    """
    a, b, stiffness = 2.0, 1.0, 2.1
    m, n = (v.ravel() for v in np.meshgrid(np.arange(1, 160), np.arange(1, 80), indexing="ij"))
    freq = 0.5 * math.pi * stiffness * ((m / a) ** 2 + (n / b) ** 2)
    keep = np.flatnonzero((freq > 40.0) & (freq < min(9000.0, 0.45 * sample_rate)))
    keep = keep[np.argsort(freq[keep])]
    m, n, freq = m[keep], n[keep], freq[keep]
    time = 1.0 / (1.0 / 2.6 + (freq / 5200.0) ** 1.2)
    drive = ((0.62, 0.57), (0.55, 1.31))
    heard = ((0.23, 0.31), (0.29, 1.61))

    def shape(place: tuple[float, float]) -> Floats:
        # The places are shares of the length and of half the width, off every line of symmetry.
        found: Floats = np.sin(m * math.pi * place[0]) * np.sin(n * math.pi * place[1] / 2.0)
        return found

    gains = np.stack([[shape(d) * shape(h) for h in heard] for d in drive])
    return _modes(freq, time, gains, BODY_SECONDS["plate"], sample_rate)


def barrel_response(sample_rate: int) -> Floats:
    """The air in a wooden barrel: the modes of a small hollow with hard walls; (2, 2, n)."""
    size = (0.86, 0.58, 0.55)
    index = np.stack(np.meshgrid(*[np.arange(9)] * 3, indexing="ij")).reshape(3, -1)[:, 1:]
    freq = (
        0.5 * SPEED_OF_SOUND * np.sqrt(sum((k / s) ** 2 for k, s in zip(index, size, strict=True)))
    )
    keep = freq < 2600.0
    freq, index = freq[keep], index[:, keep]
    time = 0.55 / (1.0 + (freq / 900.0) ** 1.1)

    def shape(place: tuple[float, float, float]) -> Floats:
        found: Floats = np.prod(np.cos(math.pi * index * np.array(place)[:, None]), axis=0)
        return found

    drive = ((0.13, 0.22, 0.31), (0.17, 0.71, 0.36))
    heard = ((0.78, 0.35, 0.09), (0.81, 0.62, 0.12))
    gains = np.stack([[shape(d) * shape(h) for h in heard] for d in drive])
    return _modes(freq, time, gains, BODY_SECONDS["barrel"], sample_rate)


@njit(cache=True, nogil=True)
def _ring(
    turn: Floats, fade: Floats, gains: Floats, out: Floats
) -> None:  # pragma: no cover - compiled
    for k in range(turn.size):
        c, s = fade[k] * math.cos(turn[k]), fade[k] * math.sin(turn[k])
        re, im = 0.0, 1.0
        for i in range(out.shape[1]):
            re, im = c * re + s * im, c * im - s * re
            if abs(re) + abs(im) < FAINT:
                break
            for p in range(out.shape[0]):
                out[p, i] += gains[k, p] * re


def _modes(freq: Floats, time: Floats, gains: Floats, seconds: float, sample_rate: int) -> Floats:
    n = math.ceil(seconds * sample_rate)
    out = np.zeros((4, n))
    turn = 2.0 * math.pi * freq / sample_rate
    fade = 10.0 ** (-3.0 / (time * sample_rate))
    _ring(turn, fade, np.ascontiguousarray(gains.reshape(4, -1).T), out)
    return out.reshape(2, 2, n)


@njit(cache=True, nogil=True)
def _spring(
    out: Floats, delay: int, stretch: int, bend: float, loss: float, dark: float
) -> None:  # pragma: no cover - compiled
    stages = 80
    lines = np.zeros((stages, 2, stretch))
    loop = np.zeros(delay)
    low = 0.0
    for i in range(out.size):
        back = loop[i % delay]
        v = (1.0 if i == 0 else 0.0) - loss * back
        place = i % stretch
        for k in range(stages):
            # All-pass whose delay differs by frequency, once per `stretch` samples.
            was_in, was_out = lines[k, 0, place], lines[k, 1, place]
            y = bend * v + was_in - bend * was_out
            lines[k, 0, place] = v
            lines[k, 1, place] = y
            v = y
        low += dark * (v - low)
        loop[i % delay] = low
        out[i] = low


def spring_response(sample_rate: int) -> Floats:
    """Two coiled springs: chirps that return again and again; (2, 2, n).

    V. Välimäki, J. Parker and J. S. Abel, "Parametric spring reverberation effect", J. Audio Eng.
    Soc. 58, 2010: a chain of stretched all-passes inside a delay loop.
    """
    n = math.ceil(BODY_SECONDS["spring"] * sample_rate)
    rows = np.zeros((2, n))
    for k, (seconds, bend) in enumerate(((0.041, 0.62), (0.053, 0.58))):
        stretch = max(1, round(sample_rate / 2.0 / 4300.0))
        dark = 1.0 - math.exp(-2.0 * math.pi * 4000.0 / sample_rate)
        _spring(rows[k], round(seconds * sample_rate), stretch, bend, 0.72, dark)
    both = np.empty((2, 2, n))
    both[0, 0], both[1, 1] = rows[0], rows[1]
    both[0, 1], both[1, 0] = 0.5 * rows[1], 0.5 * rows[0]
    return both


@njit(cache=True, nogil=True)
def _pipe(out: Floats, delay: int, loss: float, dark: float) -> None:  # pragma: no cover - compiled
    line = np.zeros(delay)
    low = 0.0
    for i in range(out.size):
        low += dark * (line[i % delay] - low)
        # The open end turns the wave over and lets some of its treble out.
        v = (1.0 if i == 0 else 0.0) - loss * low
        line[i % delay] = v
        out[i] = v


def pipe_response(sample_rate: int) -> Floats:
    """A steel pipe of some metres, open at both ends; (2, 2, n)."""
    n = math.ceil(BODY_SECONDS["pipe"] * sample_rate)
    rows = np.zeros((2, n))
    for k, metres in enumerate((3.1, 3.37)):
        dark = 1.0 - math.exp(-2.0 * math.pi * 3400.0 / sample_rate)
        _pipe(rows[k], round(2.0 * metres / SPEED_OF_SOUND * sample_rate), 0.86, dark)
    both = np.empty((2, 2, n))
    both[0, 0], both[1, 1] = rows[0], rows[1]
    both[0, 1], both[1, 0] = 0.6 * rows[1], 0.6 * rows[0]
    both[:, :, 0] = 0.0
    return both
