"""A model's table: what it is called, what can be set and what ships of it, as plain data."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

from bathyphon.core.effects.kit.table import Parameter
from bathyphon.core.timing.shapes import Scale

Kind = Literal["bed", "hit"]


LOUDNESS = -27.0
"""LUFS of every sound as it comes: a bed under speech at −16 to −23 does not cover it."""


@dataclass(frozen=True)
class Shipped:
    """A sound that ships: a model with settings of its own.

    Parameters
    ----------
    name : str
    settings : dict
        Values by the parameters' ids; the others are at their defaults.
    words : str
        What else it may be looked for by.
    help : str
        What one hears, in a sentence.
    """

    name: str
    settings: Mapping[str, float] = field(default_factory=dict)
    words: str = ""
    help: str = ""


@dataclass(frozen=True)
class ModelTable:
    """What the outside knows of a model before any sound is computed.

    Parameters
    ----------
    id, label : str
        Name in files and on screen; the folder is called like the id.
    kind : {"bed", "hit"}
        A bed goes on for ever, a hit ends.
    family : str
        Under which heading its sounds stand.
    parameters : tuple of Parameter
        Two to four telling ones. None of them moves.
    sounds : tuple of Shipped
    help : str
        What it stands for, in a sentence.
    source : str
        What has been published about how such a sound comes about.
    version : int
        Counted up when the same settings come to sound otherwise.
    """

    id: str
    label: str
    kind: Kind
    family: str
    parameters: tuple[Parameter, ...]
    sounds: tuple[Shipped, ...]
    words: str = ""
    help: str = ""
    source: str = ""
    version: int = 1


def control(
    id: str,
    label: str,
    unit: str,
    low: float,
    high: float,
    default: float,
    help: str,
    scale: Scale = "linear",
    choices: tuple[str, ...] = (),
    whole: bool = False,
) -> Parameter:
    """A row of a model's table: what is set once and stays."""
    return Parameter(
        id, label, unit, low, high, scale, default=default, help=help, movable=False,
        choices=choices, whole=whole,
    )  # fmt: skip


def share(id: str, label: str, default: float, help: str) -> Parameter:
    """A row in percent, 0 to 100."""
    return control(id, label, "%", 0.0, 100.0, default, help)


LEVEL = Parameter(
    "gain_db", "Level", "dB", -24.0, 12.0, "db", default=0.0, movable=False,
    help=f"How loud its clip is when it is laid. It comes at −{-LOUDNESS:g} LUFS.",
)  # fmt: skip
"""Set beside a sound's own controls: the level of the clip that it becomes."""
