"""A stretch of a sound that goes on for ever: what a model is given to fill."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import ArrayLike

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit import chance, events, responses
from bathyphon.core.sounds.kit.drift import Drift, slowly
from bathyphon.core.sounds.kit.rate import RATE


@dataclass(frozen=True)
class Stretch:
    """Samples ``[start, stop)`` of one sound.

    Whatever it gives depends on the sound's name and on the place alone, never on where a
    stretch begins: so stretches meet without a seam, in whatever order they are computed.

    Parameters
    ----------
    name : str
        The sound's, made of its model and seed.
    start, stop : int
    """

    name: str
    start: int
    stop: int

    @property
    def count(self) -> int:
        """Samples of it."""
        return self.stop - self.start

    @cached_property
    def seconds(self) -> Floats:
        """The moment of each sample."""
        return np.arange(self.start, self.stop) / RATE

    def silence(self) -> Floats:
        """Nothing yet, shape (2, n)."""
        return np.zeros((2, self.count))

    def noise(self, what: str, curve: responses.Curve, taps: int = responses.TAPS) -> Floats:
        """Noise of power 1 with a spectrum, shape (2, n), both sides apart."""
        white = chance.noise(f"{self.name}/{what}", self.start - taps + 1, self.stop)
        response = responses.impulse(curve, taps)
        return responses.filtered(white, response / np.sqrt(np.sum(response**2)))

    def drift(self, what: str, hz: float) -> Floats:
        """A value that wanders about 0, power 1, shape (n,)."""
        return Drift(f"{self.name}/{what}", hz).between(self.start, self.stop)

    def swell(self, what: str, hz: float, depth_db: float) -> Floats:
        """A gain that comes and goes by about ``depth_db`` each way, shape (n,)."""
        drift = Drift(f"{self.name}/{what}", hz)
        return slowly(lambda t: 10 ** (depth_db / 20 * drift.at(t)), self.start, self.stop)

    def tone(self, what: str, hz: float, wander: float = 0.0, wander_hz: float = 0.5) -> Floats:
        """A sine that is off its pitch by about ``wander`` of itself, shape (n,)."""
        phase = self.seconds
        if wander:
            drift = Drift(f"{self.name}/{what}", wander_hz)
            phase = phase + wander * drift.integral_between(self.start, self.stop)
        turn = chance.drawn(f"{self.name}/{what}/phase").uniform(0, 2 * np.pi)
        return np.asarray(np.sin(2 * np.pi * hz * phase + turn))

    def drifting_tone(self, what: str, drift_hz: float, hz: float, depth: float) -> Floats:
        """Cosine and sine of a pitch that follows a drift by ``depth`` of itself, shape (2, n)."""
        drift = Drift(f"{self.name}/{what}", drift_hz)
        moved = drift.integral_between(self.start, self.stop)
        phase = 2 * np.pi * hz * (self.seconds + depth * moved)
        return np.stack([np.cos(phase), np.sin(phase)])

    def slowly(self, value: Callable[[Floats], Floats]) -> Floats:
        """What moves slowly, worked out each hundredth of a second, see :func:`slowly`."""
        return slowly(value, self.start, self.stop, RATE // 100)

    def tide(self, what: str, hz: float, seconds: Floats) -> Floats:
        """A share between 0 and 1 that comes and goes, at moments: for what comes in showers."""
        drift = Drift(f"{self.name}/{what}", hz).at(seconds)
        return np.asarray(0.5 + 0.5 * np.tanh(1.5 * drift))

    def by_chance(self, what: str, rate: float, longest_s: float) -> events.Events:
        """See :func:`~bathyphon.core.sounds.kit.events.poisson`."""
        return events.poisson(f"{self.name}/{what}", self.start, self.stop, rate, longest_s)

    def in_step(self, what: str, every_s: float, uneven: float, longest_s: float) -> events.Events:
        """See :func:`~bathyphon.core.sounds.kit.events.regular`."""
        name = f"{self.name}/{what}"
        return events.regular(name, self.start, self.stop, every_s, uneven, longest_s)

    def at(self, what: str, seconds: ArrayLike) -> events.Events:
        """Moments that are given, see :func:`~bathyphon.core.sounds.kit.events.at_seconds`."""
        return events.at_seconds(f"{self.name}/{what}", self.start, seconds)

    def through(self, response: Floats, make: Callable[[Stretch], Floats]) -> Floats:
        """What ``make`` gives, through an impulse response, shape (2, n)."""
        before = response.shape[-1] - 1
        return responses.filtered(make(replace(self, start=self.start - before)), response)

    def shaped(self, curve: responses.Curve, make: Callable[[Stretch], Floats]) -> Floats:
        """What ``make`` gives, with a curve's magnitudes, shape (2, n)."""
        return self.through(responses.prompt(curve), make)

    def in_room(
        self, make: Callable[[Stretch], Floats], t60: float, wet: float, treble_hz: float = 5000.0
    ) -> Floats:
        """What ``make`` gives, with a room's answer of so much power added to it."""
        response = responses.tail(f"{self.name}/room", t60, treble_hz)
        before = response.shape[-1] - 1
        dry = make(replace(self, start=self.start - before))
        return np.asarray(dry[:, before:] + wet * responses.filtered(dry, response))
