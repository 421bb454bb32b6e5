"""Orbit: a sound that moves around the head, for headphones and for loudspeakers.

A spherical head: the far ear hears later by R. S. Woodworth's formula (*Experimental Psychology*,
1938) and duller in its shadow (after C. P. Brown and R. O. Duda, "A structural model for binaural
sound synthesis", IEEE Trans. Speech and Audio Processing 6, 1998). The shadow is made deep enough
from low frequencies on that both sides never cancel where they are added to mono.
"""

from __future__ import annotations

import math

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.dsp.delays import NOWHERE, slewed, tap
from bathyphon.core.dsp.filters import FLUSH, warped
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.effects.orbit.reach import BASE
from bathyphon.core.effects.orbit.table import NEAREST_M

HEAD_RADIUS_M = 0.0875
SPEED_OF_SOUND = 343.4
SHADOW_DB, SHADOW_HZ = 15.0, 180.0
# How soon the shadow deepens as the sound leaves the middle.
SHADOW_ONSET = 0.15
BEHIND_DB, DULL_HZ = 5.0, 3500.0
AIR_DB_PER_M = 0.15
SPREAD_DEGREES = 45.0
# A sound that is told to jump swings over so fast that it does not click.
FASTEST_DEGREES = 3600.0


def later_by(azimuth_deg: Floats) -> Floats:
    """Seconds by which the far ear hears a sound at these azimuths; above zero from the right.

    (a/c)·(θ + sin θ), where θ is the angle from the middle plane, in front and behind alike.
    """
    lateral = np.arcsin(np.sin(np.radians(azimuth_deg)))
    found: Floats = HEAD_RADIUS_M / SPEED_OF_SOUND * (lateral + np.sin(lateral))
    return found


def shadow_db(azimuth_deg: Floats) -> Floats:
    """How much less treble the far ear gets, in dB."""
    s = np.abs(np.sin(np.radians(azimuth_deg)))
    found: Floats = SHADOW_DB * s * (1.0 + SHADOW_ONSET) / (s + SHADOW_ONSET)
    return found


def dull_db(azimuth_deg: Floats, distance_m: Floats) -> Floats:
    """How much less treble comes from behind and from afar, in dB."""
    behind = np.maximum(0.0, -np.cos(np.radians(azimuth_deg)))
    found: Floats = BEHIND_DB * behind + AIR_DB_PER_M * np.maximum(0.0, distance_m - 1.0)
    return found


@njit(cache=True, nogil=True)
def _hear(
    source: Floats, late: Floats, shadow: Floats, dull: Floats, level: Floats, sample_rate: float,
    line: Floats, write: int, memory: Floats, out: Floats,
) -> int:  # pragma: no cover - compiled  # fmt: skip
    """Add what both ears hear of one source.

    ``late`` and ``shadow`` (2, n) are the delay in samples and the treble's share at each ear,
    ``dull`` (n,) the treble's share at both; ``memory`` (2, 2) the shelves.
    """
    size = line.size
    g = warped(SHADOW_HZ, sample_rate)
    low_share = g / (1.0 + g)
    g = warped(DULL_HZ, sample_rate)
    dull_share = g / (1.0 + g)
    for i in range(source.size):
        line[write] = source[i]
        for ear in range(2):
            v = tap(line, size, write, BASE + late[ear, i])
            step = (v - memory[ear, 0]) * low_share
            low = step + memory[ear, 0]
            memory[ear, 0] = low + step
            v = low + shadow[ear, i] * (v - low)
            step = (v - memory[ear, 1]) * dull_share
            low = step + memory[ear, 1]
            memory[ear, 1] = low + step
            v = low + dull[i] * (v - low)
            out[ear, i] += level[i] * v
            for k in range(2):
                if abs(memory[ear, k]) < FLUSH:
                    memory[ear, k] = 0.0
        write += 1
        if write == size:
            write = 0
    return write


class Orbit(Processor):
    """Left and right as two sources, as far apart as the spread says."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        longest = float(later_by(np.array([90.0]))[0]) * settings.sample_rate
        self._lines = np.zeros((2, math.ceil(longest) + BASE + 6))
        self._memory = np.zeros((2, 2, 2))
        self._write = 0
        self._places = np.full(2, NOWHERE)

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Move one block."""
        s = self._settings
        n = x.shape[1]
        azimuth = s.values("azimuth", at, n)
        turn = FASTEST_DEGREES / s.sample_rate
        distance = s.values("distance", at, n)
        apart = s.values("spread", at, n) * (SPREAD_DEGREES / 100.0)
        level = 0.5 / np.maximum(distance, NEAREST_M)
        out = np.zeros_like(x)
        write = self._write
        for k, sign in enumerate((-1.0, 1.0)):
            place = azimuth + sign * apart
            self._places[k] = slewed(place, turn, self._places[k])
            itd = later_by(place) * s.sample_rate
            late = np.stack([np.maximum(0.0, itd), np.maximum(0.0, -itd)])
            share = 10.0 ** (-shadow_db(place) / 20.0)
            right = np.sin(np.radians(place)) > 0.0
            shadow = np.stack([np.where(right, share, 1.0), np.where(right, 1.0, share)])
            dull = 10.0 ** (-dull_db(place, distance) / 20.0)
            self._write = _hear(
                x[k], late, shadow, dull, level, float(s.sample_rate), self._lines[k], write,
                self._memory[k], out,
            )  # fmt: skip
        return out

    def state(self) -> State:
        """Delay lines, shelves and the place in the lines."""
        places = np.array([self._write, *self._places])
        return (self._lines.copy(), self._memory.copy(), places)

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._lines, self._memory = state[0].copy(), state[1].copy()
        self._write = int(state[2][0])
        self._places = state[2][1:].copy()


make = Orbit
