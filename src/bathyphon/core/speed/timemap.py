"""Where the frames of a stretched sound are taken from, attacks left as they are."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.speed.latency import RETURNS, farthest
from bathyphon.core.speed.vocoder import Ints
from bathyphon.core.timing.pace import Pace

SHARE = 0.35
"""Of the way to the next attack, where they lie closer together."""
LEFT = 0.8
"""Share of the source before or after an attack that may go by at its own speed."""
LEAST = 32
"""Samples below which it is not worth it."""


@dataclass(frozen=True)
class Attacks:
    """Attacks in samples of the source, and of the output, in rising order."""

    places: Ints
    targets: Ints


def attacks_on(pace: Pace, places: Ints, low: float, high: float) -> Attacks:
    """Attacks with the samples of the output at which they lie, between two."""
    targets = np.floor(pace.when(places.astype(float), low, high) + 0.5).astype(np.int64)
    return Attacks(places, targets)


def mapped(pace: Pace, attacks: Attacks, frame: int, t: Floats) -> Floats:
    """Places of the source for places of the output: attacks go by at their own speed.

    Parameters
    ----------
    pace : Pace
    attacks : Attacks
        All that lie around ``t``, and their neighbours.
    frame : int
        As much as a frame holds goes by at its own speed around each attack.
    t : ndarray of float64
    """
    out = pace.at(t)
    targets = attacks.targets.astype(float)
    for k, place in enumerate(attacks.places):
        target = targets[k]
        back, head = _reach(pace, attacks, frame, k, -1)
        on, foot = _reach(pace, attacks, frame, k, 1)
        ends = pace.at(np.array([target - back, target + on]))
        knots_t = np.array([target - back, target - head, target + foot, target + on])
        knots = np.array([ends[0], place - head, place + foot, ends[1]])
        near = (t >= knots_t[0]) & (t <= knots_t[3])
        if near.any() and head + foot > 0:
            out = np.where(near, np.interp(t, knots_t, knots), out)
    return out


def _reach(pace: Pace, attacks: Attacks, frame: int, k: int, side: int) -> tuple[float, float]:
    """How far on one side of an attack the map leaves its line, and goes by at its own speed."""
    far = float(farthest(frame))
    gap_out = gap_in = 4.0 * far
    if 0 <= k + side < attacks.places.size:
        gap_in = min(gap_in, abs(float(attacks.places[k + side] - attacks.places[k])))
        gap_out = min(gap_out, abs(float(attacks.targets[k + side] - attacks.targets[k])))
    whole = float(np.floor(min(frame // 2, SHARE * min(gap_in, gap_out))))
    target, place = float(attacks.targets[k]), float(attacks.places[k])
    for times in RETURNS:
        back = max(whole, min(times * whole, 0.5 * gap_out))
        there = float(pace.at(np.array([target + side * back]))[0])
        own = float(np.floor(min(whole, LEFT * abs(there - place))))
        if own == whole:
            break
    return (back, own) if own >= LEAST else (0.0, 0.0)


def fresh_frames(targets: Ints, middles: Ints, frame: int) -> Ints:
    """Index of the attack that begins anew in each frame, −1 where none does.

    Parameters
    ----------
    targets : ndarray of int64
        Samples of the output at which attacks lie.
    middles : ndarray of int64
        Samples of the output in the middle of each frame.
    frame : int
    """
    fresh = np.full(middles.size, -1, np.int64)
    for k, target in enumerate(targets):
        # From the first frame that holds the attack until it lies well inside.
        fresh[(middles > target - frame // 2) & (middles <= target + frame // 4)] = k
    return fresh
