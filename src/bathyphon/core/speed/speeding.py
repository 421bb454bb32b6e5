"""A sound at another speed and pitch, both of which may move."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import Literal, Protocol

import numpy as np

from bathyphon.core.curves import Curve, Floats
from bathyphon.core.speed.attacks import Read
from bathyphon.core.speed.pace import Factor, Moving, Pace, Ratio, Reread, Rereading, Steady
from bathyphon.core.speed.resample import reach_of, read_at
from bathyphon.core.speed.source import Source
from bathyphon.core.speed.stretch import WHOLE, Grid, Stretch

NO_SHIFT = Curve.constant(0.0)
STANDING = 0.02
"""Reading speed below which a sound fades away."""
PIECE = 65536
"""Samples that are read at once."""


class Sounding(Protocol):
    """Anything that yields samples."""

    def read(self, start: int, stop: int) -> Floats:
        """Samples ``start … stop − 1``, shape (channels, stop − start)."""


@dataclass(frozen=True)
class Speeding:
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
        followed = self.pitch == "follow" and not self._unhurried
        return moved or (self.formants == "hold" and (self.shifted or followed))

    @cached_property
    def plain(self) -> bool:
        """Whether nothing is changed at all."""
        return not self.shifted and not self.reshaped and self._unhurried

    @property
    def _unhurried(self) -> bool:
        return all(k.value == 100.0 for k in self.percent.keyframes)

    def pace(self, sample_rate: int) -> Pace:
        """Places of the source for samples of the output."""
        if self.percent.moves or self.percent.largest == 0.0:
            return Moving(self.percent, self.origin, sample_rate)
        return Steady(self.percent.keyframes[0].value)

    def ratio(self, sample_rate: int) -> Ratio:
        """Factor of all frequencies."""
        factors = []
        if self.pitch == "follow":
            factors.append(Factor(self.percent, "percent"))
        factors.append(Factor(self.semitones, "semitones"))
        factors.append(Factor(self.cents, "semitones", 0.01))
        return Ratio(tuple(factors), self.origin, sample_rate)

    def of(self, read: Read, sample_rate: int, grid: Grid = WHOLE) -> Sounding:
        """The sound at this speed and pitch; its sample 0 is sample 0 of what is read.

        Parameters
        ----------
        read : callable
            Samples from … to of the sound, shape (channels, n), silence beyond its ends.
        sample_rate : int
        grid : Grid
            How much is computed at once.
        """
        if self.plain:
            return _Plain(read)
        pace, ratio = self.pace(sample_rate), self.ratio(sample_rate)
        if self.pitch == "follow" and not self.shifted and not self.reshaped:
            return Reading(read, pace.at, ratio.speeds)
        source, voice = Source(read, sample_rate, grid.block), self.material == "voice"
        if self.pitch == "hold" and not self.shifted:
            return Stretch(source, pace, voice, self.envelope(None, sample_rate), grid)
        stretch = Stretch(
            source, Reread(pace, ratio), voice, self.envelope(ratio, sample_rate), grid
        )
        return Reading(stretch.read, ratio.at, ratio.speeds)

    def envelope(
        self, ratio: Rereading | None, sample_rate: int
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


@dataclass(frozen=True)
class _Plain:
    read: Read


class Reading:
    """A sound read at places between its samples, at a speed that may move.

    Parameters
    ----------
    read : callable
    places : callable
        Places of the sound for samples of the output.
    speeds : callable
        ``(at, n)``: samples of the sound per sample of the output.
    """

    def __init__(
        self, read: Read, places: Callable[[Floats], Floats], speeds: Callable[[int, int], Floats]
    ) -> None:
        self._read = read
        self._places = places
        self._speeds = speeds

    def read(self, start: int, stop: int) -> Floats:
        """Samples ``start … stop − 1``, shape (channels, stop − start)."""
        parts = [
            self._piece(a, min(a + PIECE, stop)) for a in range(start, max(stop, start + 1), PIECE)
        ]
        channels = max(part.shape[0] for part in parts)
        whole = [np.broadcast_to(part, (channels, part.shape[1])) for part in parts]
        return whole[0] if len(whole) == 1 else np.concatenate(whole, axis=1)

    def _piece(self, start: int, stop: int) -> Floats:
        speeds = self._speeds(start, stop - start)
        places = self._places(np.arange(start, stop, dtype=np.float64))
        reach = reach_of(float(speeds.max(initial=1.0)))
        first = int(np.floor(places.min(initial=np.inf))) - reach if places.size else 0
        last = int(np.ceil(places.max(initial=-np.inf))) + reach if places.size else 0
        x = self._read(first, last + 1)
        if x.shape[0] == 2 and np.array_equal(x[0], x[1]):
            x = x[:1]
        y = read_at(x, places, speeds, first)
        if speeds.min(initial=1.0) >= STANDING:
            return y
        # What stands still would sound on as a constant.
        u = np.minimum(speeds / STANDING, 1.0)
        return np.asarray(y * (u * u * (3.0 - 2.0 * u)))
