"""Many short sounds at once: tones and grains of noise that die away, each at its own moment."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.sounds.kit.rate import RATE

GONE = math.log(1e5)
"""Nepers after which nothing more is heard: −100 dB."""


@njit(cache=True)
def add_tones(
    out: Floats,
    at: NDArray[np.int64],
    hz: Floats,
    rise: Floats,
    decay: Floats,
    left: Floats,
    right: Floats,
    attack_s: Floats,
) -> None:
    """Add decaying sines, also those that began before the first sample.

    Parameters
    ----------
    out : ndarray, shape (2, n)
    at : ndarray of int64, shape (m,)
        Where each begins, counted from the first sample of ``out``.
    hz, rise, decay, left, right, attack_s : ndarray, shape (m,)
        Pitch as it begins and by how much of itself it rises a second; decay in nepers a second;
        levels on both sides; seconds until it is at its height.
    """
    count = out.shape[1]
    for e in range(at.size):
        ends = at[e] + int((GONE / decay[e] + attack_s[e]) * RATE) + 1
        first, last = max(0, at[e]), min(count, ends)
        if first >= last:
            continue
        m = first - at[e]
        w0 = 2 * math.pi * hz[e] / RATE
        bend = w0 * rise[e] / RATE
        phase = w0 * m + bend * m * m / 2
        step = w0 + bend * (m + 0.5)
        re, im = math.cos(phase), math.sin(phase)
        wr, wi = math.cos(step), math.sin(step)
        br, bi = math.cos(bend), math.sin(bend)
        fall = math.exp(-decay[e] / RATE)
        height = math.exp(-decay[e] * m / RATE)
        rises = attack_s[e] * RATE
        for i in range(first, last):
            value = im * height
            since = i - at[e]
            if since < rises:
                value *= 0.5 - 0.5 * math.cos(math.pi * since / rises)
            out[0, i] += value * left[e]
            out[1, i] += value * right[e]
            re, im = re * wr - im * wi, re * wi + im * wr
            wr, wi = wr * br - wi * bi, wr * bi + wi * br
            height *= fall


@njit(cache=True)
def add_grains(
    out: Floats,
    at: NDArray[np.int64],
    hz: Floats,
    width: Floats,
    decay: Floats,
    left: Floats,
    right: Floats,
    attack_s: Floats,
    seeds: NDArray[np.uint32],
) -> None:
    """Add bursts of noise in a band, each of power 1 before its decay and levels.

    Parameters
    ----------
    hz, width : ndarray, shape (m,)
        Middle and bandwidth of a two-pole resonator.
    seeds : ndarray of uint32, shape (m,)
        From which each draws its noise (Marsaglia, "Xorshift RNGs", 2003).

    The others as in :func:`add_tones`.
    """
    count = out.shape[1]
    for e in range(at.size):
        ends = at[e] + int((GONE / decay[e] + attack_s[e]) * RATE) + 1
        last = min(count, ends)
        if last <= 0:
            continue
        radius = math.exp(-math.pi * width[e] / RATE)
        a1 = 2 * radius * math.cos(2 * math.pi * hz[e] / RATE)
        a2 = radius * radius
        power = (1 + a2) / ((1 - a2) * ((1 + a2) ** 2 - a1 * a1))
        gain = math.sqrt(3.0 / power)
        y1 = y2 = 0.0
        state = np.uint32(seeds[e] | np.uint32(1))
        fall = math.exp(-decay[e] / RATE)
        height = 1.0
        rises = attack_s[e] * RATE
        for i in range(at[e], last):
            state ^= np.uint32(state << np.uint32(13))
            state ^= np.uint32(state >> np.uint32(17))
            state ^= np.uint32(state << np.uint32(5))
            x = np.float64(state) / 2147483648.0 - 1.0
            y = gain * x + a1 * y1 - a2 * y2
            y2, y1 = y1, y
            since = i - at[e]
            value = y * height
            if since < rises:
                value *= 0.5 - 0.5 * math.cos(math.pi * since / rises)
            height *= fall
            if i >= 0:
                out[0, i] += value * left[e]
                out[1, i] += value * right[e]
