"""What a kind of analysis is: which values each column holds, and how they come about."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.analysis.bands import Axis
from bathyphon.core.analysis.frames import Sharpness
from bathyphon.core.arrays import Floats

MISSING = -32768
"""Stands for what has no value, such as the pitch of a rustle."""


@dataclass(frozen=True)
class Settings:
    """How a spectrum is taken.

    Parameters
    ----------
    axis : {"log", "mel"}
    sharp : {"time", "both", "pitch"}
    """

    axis: Axis = "log"
    sharp: Sharpness = "both"


class Source(Protocol):
    """A place in the signal flow that is listened to."""

    @property
    def rate(self) -> int:
        """Samples a second."""

    def sound(self, start: int, stop: int) -> Floats:
        """Samples of a stretch, shape (2, stop − start); silence before the reel."""

    def tally(self, start: int, stop: int) -> Floats:
        """Rows of whole seconds from one to another; see :mod:`bathyphon.core.measure.tally`."""


@dataclass(frozen=True)
class Kind:
    """One kind of analysis over time.

    Parameters
    ----------
    id, label, help : str
    place : int
        Its place among others.
    finest : int
        Columns a second at most: nothing new is seen beyond.
    rows : callable
        What the values of a column stand for, from the settings and the rate: frequencies in Hz,
        places from left to right, or names.
    beside : tuple of str
        Names of further values of a column, which are none of those.
    reach : callable
        Samples before a second and after it that decide its columns.
    second : callable
        Columns of a second, shape (columns, rows), from a source, the second, how many columns
        and the settings.
    fold : callable
        Several columns as one: shape (n, k, rows) → (n, rows).
    shown : callable
        Values as they are written: decibels, notes.
    fraction : int
        By how much they are multiplied when they are sent as whole numbers.
    unit : str
    """

    id: str
    label: str
    help: str
    place: int
    finest: int
    rows: Callable[[Settings, int], list[float] | list[str]]
    reach: Callable[[Settings, int], tuple[int, int]]
    second: Callable[[Source, int, int, Settings], Floats]
    fold: Callable[[Floats], Floats]
    shown: Callable[[Floats], Floats]
    fraction: int
    unit: str
    beside: tuple[str, ...] = ()

    def width(self, settings: Settings, rate: int) -> int:
        """Values of a column."""
        return len(self.rows(settings, rate)) + len(self.beside)

    def written(self, values: Floats) -> NDArray[np.int16]:
        """Values as they are sent: whole numbers, :data:`MISSING` for none."""
        shown = self.shown(values) * self.fraction
        known = np.isfinite(shown)
        whole = np.clip(np.rint(np.where(known, shown, 0.0)), MISSING + 1, 32767)
        return np.where(known, whole, MISSING).astype(np.int16)


def decibels(power: Floats) -> Floats:
    """Levels of mean squares, −160 dB for silence."""
    return np.asarray(10.0 * np.log10(np.maximum(power, 1e-16)))


def divided(columns: int, samples: int) -> NDArray[np.int64]:
    """Where each of some columns begins in so many samples."""
    return np.arange(columns) * samples // columns


def means_of(values: Floats, columns: int) -> Floats:
    """Mean of a row of samples within each of some columns, shape (columns,)."""
    firsts = divided(columns, values.size)
    lengths = np.diff(np.append(firsts, values.size))
    return np.asarray(np.add.reduceat(values, firsts) / lengths)


def average(parts: Floats) -> Floats:
    """Mean of several columns, such as powers."""
    return np.asarray(parts.mean(axis=1))
