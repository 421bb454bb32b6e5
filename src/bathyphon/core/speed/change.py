"""What is done to the speed and pitch of a sound, both of which may move."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.speed.ratio import Factor, Ratio, ReadingSpeed
from bathyphon.core.timing.curves import Curve
from bathyphon.core.timing.pace import Pace, pace_of

NO_SHIFT = Curve.constant(0.0)


@dataclass(frozen=True)
class SpeedChange:
    """What is done to the speed and pitch of a sound.

    Parameters
    ----------
    percent : Curve
        Speed: 10 to 400 where it stays, 0 to 400 where it moves.
    semitones, cents : Curve
        Shift of the pitch besides, −24 to 24 semitones.
    pitch : {"hold", "follow"}
        Whether the pitch stays or goes with the speed.
    formants : {"hold", "follow"}
        Whether formants stay where they are or go with the pitch.
    formant_shift : Curve
        Semitones by which formants are moved besides.
    material : {"voice", "music"}
        A single voice keeps the shape of its pulses.
    origin : int
        Sample of the curves' own time at which the output begins.
    """

    percent: Curve
    semitones: Curve = NO_SHIFT
    cents: Curve = NO_SHIFT
    pitch: Literal["hold", "follow"] = "hold"
    formants: Literal["hold", "follow"] = "follow"
    formant_shift: Curve = NO_SHIFT
    material: Literal["voice", "music"] = "music"
    origin: int = 0

    @cached_property
    def shifted(self) -> bool:
        """Whether the pitch is moved besides."""
        return any(k.value != 0.0 for c in (self.semitones, self.cents) for k in c.keyframes)

    @cached_property
    def reshaped(self) -> bool:
        """Whether formants lie elsewhere than the pitch takes them."""
        moved = any(k.value != 0.0 for k in self.formant_shift.keyframes)
        followed = self.pitch == "follow" and not self._at_own_speed
        return moved or (self.formants == "hold" and (self.shifted or followed))

    @cached_property
    def plain(self) -> bool:
        """Whether nothing is changed at all."""
        return not self.shifted and not self.reshaped and self._at_own_speed

    @property
    def stretches(self) -> bool:
        """Whether it takes more than to be read faster or slower."""
        followed = self.pitch == "follow" and not self.shifted and not self.reshaped
        return not self.plain and not followed

    @property
    def _at_own_speed(self) -> bool:
        return all(k.value == 100.0 for k in self.percent.keyframes)

    def pace(self, sample_rate: int) -> Pace:
        """Places of the source for samples of the output."""
        return pace_of(self.percent, self.origin, sample_rate)

    def ratio(self, sample_rate: int) -> Ratio:
        """Factor of all frequencies."""
        factors = []
        if self.pitch == "follow":
            factors.append(Factor(self.percent, "percent"))
        factors.append(Factor(self.semitones, "semitones"))
        factors.append(Factor(self.cents, "semitones", 0.01))
        return Ratio(tuple(factors), self.origin, sample_rate)

    def envelope(
        self, ratio: ReadingSpeed | None, sample_rate: int
    ) -> Callable[[Floats], Floats] | None:
        """By how much frequencies of what is read are multiplied to find their envelope."""
        if not self.reshaped and not (ratio is not None and self.formants == "hold"):
            return None

        def by(places: Floats) -> Floats:
            out = np.empty(places.size)
            for i, t in enumerate(places if ratio is None else ratio.when(places)):
                at = int(np.floor(t + 0.5))
                moved = self.formant_shift.values(at + self.origin, 1, sample_rate)[0]
                held = ratio is not None and self.formants == "hold"
                out[i] = (ratio.speeds(at, 1)[0] if ratio and held else 1.0) * 2.0 ** (
                    -moved / 12.0
                )
            return out

        return by
