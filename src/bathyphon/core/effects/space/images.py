"""Impulse responses of box-shaped rooms: image sources first, then a diffuse tail.

J. B. Allen and D. A. Berkley, "Image method for efficiently simulating small-room acoustics",
J. Acoust. Soc. Am. 65, 1979, for the reflections; C. F. Eyring, "Reverberation time in 'dead'
rooms", J. Acoust. Soc. Am. 1, 1930, for the decay of each band from the walls' absorption.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.arrays import Floats

SPEED_OF_SOUND = 343.4
EDGE_OCTAVES = 0.2
BANDS_HZ = np.array([125.0, 250.0, 500.0, 1000.0, 2000.0, 4000.0, 8000.0])
# Attenuation of air at 20 °C and 50 % humidity, in 1/m, by these bands (ISO 9613-1, from memory).
AIR = np.array([0.0001, 0.0003, 0.0006, 0.0011, 0.0025, 0.0076, 0.026])


@dataclass(frozen=True)
class Room:
    """A box with walls.

    Parameters
    ----------
    size_m : tuple of float
        Length, width and height.
    absorption : tuple of float
        Share of the energy that the walls take, by the octave bands from 125 Hz to 8 kHz.
    seed : int
        Of the diffuse tail.
    blend_s : float
        When single reflections give way to the tail.
    """

    size_m: tuple[float, float, float]
    absorption: tuple[float, float, float, float, float, float, float]
    seed: int
    blend_s: float = 0.08


def decay_times(room: Room) -> Floats:
    """T60 in seconds of each band, by Eyring's formula with the air's share."""
    x, y, z = room.size_m
    volume = x * y * z
    surface = 2.0 * (x * y + x * z + y * z)
    walls = -surface * np.log(1.0 - np.array(room.absorption))
    found: Floats = 24.0 * math.log(10.0) / SPEED_OF_SOUND * volume / (walls + 4.0 * AIR * volume)
    return found


def room_seconds(room: Room) -> float:
    """Seconds in which the slowest band falls by 90 dB, and the reflections before them."""
    return 1.5 * float(decay_times(room).max()) + room.blend_s


def _fast_length(n: int) -> int:
    # Transforms take lengths of small factors nearly as fast as powers of two.
    from scipy.fft import next_fast_len

    return int(next_fast_len(n, real=True))


def room_response(room: Room, sample_rate: int) -> Floats:
    """Responses from a source on the left and on the right to two microphones.

    Returns
    -------
    ndarray, shape (2, 2, n)
        Input side, output side, samples; the direct sound is left out.
    """
    times = decay_times(room)
    n = math.ceil(room_seconds(room) * sample_rate)
    length = _fast_length(n)
    first = _fast_length(math.ceil((room.blend_s + 0.1) * sample_rate))
    out = np.zeros((2, 2, n))
    rng = np.random.Generator(np.random.Philox(room.seed))
    size = np.array(room.size_m)
    sources = size * np.array([[0.32, 0.30, 0.4], [0.35, 0.70, 0.42]])
    ears = size * np.array([[0.71, 0.43, 0.46], [0.71, 0.43, 0.46]])
    ears[:, 1] += [-0.15, 0.15]
    blend = room.blend_s
    t = np.arange(n) / sample_rate
    late_share = np.sin(0.5 * np.pi * np.clip((t - 0.2 * blend) / (0.8 * blend), 0.0, 1.0))
    early_share = np.cos(0.5 * np.pi * np.clip((t - 0.5 * blend) / (0.5 * blend), 0.0, 1.0))
    for a in range(2):
        for b in range(2):
            early = np.zeros(n)
            found = _reflections(room, sources[a], ears[b], sample_rate, first)[:n]
            early[: found.size] = found
            late = _diffuse(times, rng, sample_rate, length)[:n]
            # Both as loud where they meet.
            window = (t > 0.5 * blend) & (t < blend)
            there = max(float(np.mean(late[window] ** 2)), 1e-30)
            level = math.sqrt(float(np.mean(early[window] ** 2)) / there)
            out[a, b] = early * early_share + level * late * late_share
    return out


def _reflections(
    room: Room, source: Floats, ear: Floats, sample_rate: int, length: int
) -> Floats:  # fmt: skip
    size = np.array(room.size_m)
    reach = room.blend_s * SPEED_OF_SOUND + float(np.linalg.norm(source - ear))
    most = [math.ceil(reach / (2.0 * s)) for s in size]
    axes = []
    for axis in range(3):
        k = np.arange(-most[axis], most[axis] + 1)
        for mirrored in (0, 1):
            place = (1 - 2 * mirrored) * source[axis] + 2.0 * k * size[axis] - ear[axis]
            walls = np.abs(k - mirrored) + np.abs(k)
            axes.append((axis, place, walls))
    direct = float(np.linalg.norm(source - ear))
    trains: dict[int, Floats] = {}
    for _, px, wx in axes[0:2]:
        for _, py, wy in axes[2:4]:
            for _, pz, wz in axes[4:6]:
                far = np.sqrt(
                    px[:, None, None] ** 2 + py[None, :, None] ** 2 + pz[None, None, :] ** 2
                )
                hits = wx[:, None, None] + wy[None, :, None] + wz[None, None, :]
                at = np.rint((far - direct) / SPEED_OF_SOUND * sample_rate).astype(np.int64)
                for order in np.unique(hits):
                    if order == 0:
                        continue
                    here = (hits == order) & (at < length) & (far < reach + direct)
                    train = trains.setdefault(int(order), np.zeros(length))
                    np.add.at(train, at[here], direct / far[here])
    f = np.fft.rfftfreq(length, 1.0 / sample_rate)
    wall = np.sqrt(1.0 - np.interp(_octaves(f), _octaves(BANDS_HZ), np.array(room.absorption)))
    total = np.zeros(f.size, complex)
    for order, train in sorted(trains.items()):
        total += np.fft.rfft(train) * wall**order
    return np.fft.irfft(total, length)


def _diffuse(times: Floats, rng: np.random.Generator, sample_rate: int, length: int) -> Floats:
    """Noise whose octave bands decay each in its own time."""
    spectrum = np.fft.rfft(rng.standard_normal(length))
    place = _octaves(np.fft.rfftfreq(length, 1.0 / sample_rate)) - _octaves(BANDS_HZ)[0]
    t = np.arange(length) / sample_rate
    out = np.zeros(length)
    for k, time in enumerate(times):
        # Octaves with steep edges add up to one; the outermost bands reach to the ends.
        share = np.clip(0.5 + (0.5 - np.abs(place - k)) / EDGE_OCTAVES, 0.0, 1.0)
        if k == 0:
            share = np.where(place < 0.0, 1.0, share)
        if k == times.size - 1:
            share = np.where(place > k, 1.0, share)
        out += np.fft.irfft(spectrum * np.sqrt(share), length) * 10.0 ** (-3.0 * t / time)
    return out


def _octaves(freq_hz: NDArray[np.floating]) -> Floats:
    return np.asarray(np.log2(np.maximum(freq_hz, 1.0)), np.float64)
