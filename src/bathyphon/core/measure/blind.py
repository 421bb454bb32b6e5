"""The room that is heard in a voice: decay per octave and how much of it there is, without a pulse.

Where a voice stops, the room goes on. Lines are laid through the falls of each octave band's level;
a fall is never faster than the room allows, and often as fast: near the fastest of them lies the
room's decay (the idea of Ratnam et al. 2003, “Blind estimation of reverberation time”, and of Prego
et al. 2012, with lines through the falls of subbands; from memory). Which share of the falls is
that fast has been set by rooms made for it, apart from those that test it.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.measure.decay import octave_band

OCTAVES = (125.0, 250.0, 500.0, 1000.0, 2000.0, 4000.0, 8000.0)
STEP_S = 0.005
TURN_DB, LEAST_DB, USED_DB = 4.0, 12.0, 8.0
"""What ends a fall, how deep it must be, and how much of it a line needs."""
HEAD_DB, FOOT_DB, DEEPEST_DB = 3.0, 2.0, 55.0
STRAIGHT = 0.85
FEWEST = 3
QUICK, QUIETEST_DB = 5, 50.0
NARROW_STEPS, STEPS = 14, 8
"""Steps over which levels are smoothed: low bands swing more slowly."""
SHARES = {125.0: 45, 250.0: 30, 500.0: 33, 1000.0: 30, 2000.0: 14, 4000.0: 8, 8000.0: 8}
"""Percent of the falls of a band that are faster than its room seems to be."""


@dataclass(frozen=True)
class Fall:
    """A stretch in which a band's level falls.

    Parameters
    ----------
    seconds : float
        Time in which its line falls by 60 dB.
    straight : float
        Share of its variance that the line explains.
    """

    seconds: float
    straight: float


def octave_energies(sound: Floats, rate: int) -> dict[float, Floats]:
    """Energy of each octave band in steps of 5 ms.

    Parameters
    ----------
    sound : ndarray, shape (channels, n)
    rate : int

    Returns
    -------
    dict of ndarray
        By centres in Hz; bands beyond half the rate are left out.
    """
    hop = round(STEP_S * rate)
    found = {}
    for centre in OCTAVES:
        if centre * 2**0.5 > 0.5 * rate:
            continue
        energy = np.mean(octave_band(np.asarray(sound, float), centre, rate) ** 2, axis=0)
        count = energy.size // hop
        found[centre] = energy[: count * hop].reshape(count, hop).mean(axis=1)
    return found


def falls(energy: Floats, centre_hz: float) -> list[Fall]:
    """The falls of a band that are long and straight enough to tell of a room."""
    steps = NARROW_STEPS if centre_hz < 400 else STEPS
    if energy.size <= steps or not energy.any():
        return []
    smooth = np.convolve(energy, np.ones(steps) / steps, "same")
    level = 10 * np.log10(smooth + 1e-14 * smooth.max())
    loud = np.percentile(level, 99)
    found = []
    for top, bottom in _turns(level):
        if level[top] - level[bottom] < LEAST_DB:
            continue
        part = level[top : bottom + 1]
        used = np.flatnonzero(
            (part < level[top] - HEAD_DB) & (part > max(level[bottom] + FOOT_DB, loud - DEEPEST_DB))
        )
        if used.size < steps or np.ptp(part[used]) < USED_DB:
            continue
        slope, _ = np.polyfit(used, part[used], 1)
        if slope < 0:
            straight = float(np.corrcoef(used, part[used])[0, 1] ** 2)
            found.append(Fall(-60 / slope * STEP_S, straight))
    return found


def _turns(level: Floats) -> list[tuple[int, int]]:
    """Tops and the bottoms after them, between which the level falls without rising again."""
    found: list[tuple[int, int]] = []
    top = bottom = 0
    rising = True
    for k in range(level.size):
        if rising:
            if level[k] >= level[top]:
                top = k
            elif level[k] < level[top] - TURN_DB:
                rising, bottom = False, k
        elif level[k] <= level[bottom]:
            bottom = k
        elif level[k] > level[bottom] + TURN_DB:
            found.append((top, bottom))
            rising, top = True, k
    return found if rising else [*found, (top, bottom)]


def room_decay(energy: Floats, centre_hz: float) -> float | None:
    """T60 of the room in one band, in seconds; none where too little falls."""
    seconds = [fall.seconds for fall in falls(energy, centre_hz) if fall.straight > STRAIGHT]
    if len(seconds) < FEWEST:
        return None
    return float(np.percentile(seconds, SHARES[centre_hz]))


def quick_falls(energy: Floats) -> float:
    """By how many decibels a band falls in 40 ms where it falls fast: the less, the more room.

    It says nothing of a room by itself, but of two voices in one room the one that is farther away
    falls by less: a direct sound ends at once.
    """
    if energy.size <= 2 * STEPS or not energy.any():
        return 0.0
    smooth = np.convolve(energy, np.ones(STEPS) / STEPS, "same")
    level = 10 * np.log10(smooth + 1e-14 * smooth.max())
    there = level[STEPS:] > np.percentile(level, 95) - QUIETEST_DB
    change = (level[STEPS:] - level[:-STEPS])[there]
    return float(-np.percentile(change, QUICK))
