"""What a drawing of an effect consists of: axes, lines, marks and grips, as plain numbers."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass, field
from typing import Any, Literal

import numpy as np

from bathyphon.core.arrays import Floats

# "result" is what comes out, "before" what went in, "other" a second result such as the right side.
Style = Literal["result", "other", "before", "guide"]
MOST_POINTS = 240


@dataclass(frozen=True)
class Axis:
    """One axis and its range."""

    label: str
    unit: str
    low: float
    high: float
    scale: Literal["linear", "log"] = "linear"


@dataclass(frozen=True)
class Line:
    """A line through points; ``label`` tells lines of one style apart."""

    x: tuple[float, ...]
    y: tuple[float, ...]
    style: Style = "result"
    label: str = ""


@dataclass(frozen=True)
class Mark:
    """A single event, drawn as a stem: one repeat of an echo."""

    x: float
    y: float
    label: str = ""
    style: Style = "result"


@dataclass(frozen=True)
class Grip:
    """A place that can be taken hold of; moving it sets the parameters that it names.

    A parameter's value lies on its axis as it is, times ``x_factor`` or ``y_factor``.
    """

    x: float
    y: float
    label: str
    x_parameter: str = ""
    y_parameter: str = ""
    x_factor: float = 1.0
    y_factor: float = 1.0


@dataclass(frozen=True)
class Drawing:
    """What an effect does at one moment, from the computation that makes its sound.

    ``facts`` say the same in words; ``round`` asks for equal scales on both axes; ``units`` are
    other units that a time may be given in, and how many milliseconds one of each is; ``beneath``
    is a second drawing of the same.
    """

    x: Axis
    y: Axis
    lines: tuple[Line, ...] = ()
    marks: tuple[Mark, ...] = ()
    grips: tuple[Grip, ...] = ()
    facts: tuple[str, ...] = ()
    round: bool = False
    units: Mapping[str, float] = field(default_factory=dict)
    beneath: Drawing | None = None

    def plain(self) -> dict[str, Any]:
        """As plain data."""
        return asdict(self)


def line(x: Floats, y: Floats, style: Style = "result", label: str = "") -> Line:
    """A line of rounded points."""
    return Line(_rounded(x), _rounded(y), style, label)


def _rounded(values: Floats) -> tuple[float, ...]:
    return tuple(float(f"{v:.5g}") for v in values.tolist())


def decibels(gain: Floats, floor: float = -120.0) -> Floats:
    """Levels of gains, not below a floor."""
    found: Floats = 20.0 * np.log10(np.maximum(np.abs(gain), 10.0 ** (floor / 20.0)))
    return found
