"""Where the output of a stretcher takes its sound from."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import ROUND_FLOOR, Decimal

import numpy as np

from bathyphon.core.curves import Floats
from bathyphon.core.speed.vocoder import OVERLAP, Ints

SHARE = 0.35
"""Of the way to the next attack, where they lie closer together."""
RETURN = 4.0
"""Times that reach after which the map is back on its line."""


def stretched_length(samples: int, percent: float) -> int:
    """Samples of a sound at a constant speed: floor(100·N/percent + ½), in exact decimals."""
    exact = Decimal(100 * samples) / Decimal(repr(percent)) + Decimal("0.5")
    return int(exact.to_integral_value(ROUND_FLOOR))


@dataclass(frozen=True)
class TimeMap:
    """A rising line through points: samples of the output, and of the input.

    Parameters
    ----------
    out, source : ndarray of float64, shape (n,)
    """

    out: Floats
    source: Floats

    def at(self, places: Floats) -> Floats:
        """Places of the input for places of the output; beyond its ends it goes on straight."""
        inside = np.interp(places, self.out, self.source)
        first, last = self.out[[0, -1]]
        head = (self.source[1] - self.source[0]) / (self.out[1] - self.out[0])
        foot = (self.source[-1] - self.source[-2]) / (self.out[-1] - self.out[-2])
        inside = np.where(places < first, self.source[0] + (places - first) * head, inside)
        beyond = self.source[-1] + (places - last) * foot
        return np.asarray(np.where(places > last, beyond, inside))


def targets_of(attacks: Ints, percent: float) -> Ints:
    """Samples of the output at which attacks lie."""
    return np.asarray(np.floor(attacks * 100.0 / percent + 0.5), np.int64)


def steady_map(samples: int, percent: float, attacks: Ints, frame: int) -> TimeMap:
    """The map of a constant speed, in which attacks lie right and go by at their own speed.

    Parameters
    ----------
    samples : int
        Of the input.
    percent : float
    attacks : ndarray of int64, shape (n,)
        Samples of the input.
    frame : int
        As much as a frame holds goes by at its own speed around each attack.
    """
    speed = percent / 100.0
    places, targets = attacks, targets_of(attacks, percent)
    out, source = [0.0], [0.0]
    for k, (place, target) in enumerate(zip(places, targets, strict=True)):
        before = place - places[k - 1] if k else 2.0 * place
        after = places[k + 1] - place if k + 1 < places.size else 2.0 * (samples - place)
        rooms = [min(room, room / speed) for room in (before, after)]
        head, foot = (np.floor(min(frame // 2, SHARE * room)) for room in rooms)
        # No farther than half the way to the next attack.
        back = max(head, min(RETURN * head, 0.5 * rooms[0]))
        on = max(foot, min(RETURN * foot, 0.5 * rooms[1]))
        # Around what goes by at its own speed the map soon returns to where it would be.
        for at, reach in (
            (target - back, None),
            (target - head, -head),
            (target + foot, foot),
            (target + on, None),
        ):
            here = at * speed if reach is None else place + reach
            if at > out[-1] and here > source[-1]:
                out.append(float(at))
                source.append(float(here))
    length = samples / speed
    if length > out[-1] and samples > source[-1]:
        out.append(length)
        source.append(float(samples))
    return TimeMap(np.array(out), np.array(source))


def places_of(map: TimeMap, length: int, frame: int) -> Ints:
    """Samples of the input at the middle of each frame of an output of ``length`` samples."""
    hop = frame // OVERLAP
    middles = np.arange(length // hop + 3) * hop
    return np.floor(map.at(middles.astype(float)) + 0.5).astype(np.int64)


def fresh_frames(targets: Ints, length: int, frame: int) -> Ints:
    """Index of the attack that begins anew in each frame, −1 where none does."""
    hop = frame // OVERLAP
    middles = np.arange(length // hop + 3) * hop
    fresh = np.full(middles.size, -1, np.int64)
    for k, target in enumerate(targets):
        # From the first frame that holds the attack until it lies well inside.
        fresh[(middles > target - frame // 2) & (middles <= target + frame // 4)] = k
    return fresh
