"""A recipe's table: what it does and what it asks, as plain data."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from bathyphon.core.effects.kit.table import Parameter
from bathyphon.core.timing.shapes import Scale

Needs = Literal["clip", "two clips", "stretch", "markers"]


@dataclass(frozen=True)
class RecipeTable:
    """What the outside knows of a recipe.

    Parameters
    ----------
    id, label : str
        Name in documents and on screen; the folder is called like the id.
    place : int
        Where it stands in the list.
    needs : {"clip", "two clips", "stretch", "markers"}
        What it works on: the clip that is selected or under the playhead; that and another one
        that is selected with it; the range, the treatment or the shot; the markers of the clip.
    questions : tuple of Parameter
        Two or three, with defaults that are good.
    words : str
        What else it is looked for by.
    help : str
        What it does, in one or two sentences.
    """

    id: str
    label: str
    place: int
    needs: Needs
    questions: tuple[Parameter, ...]
    words: str = ""
    help: str = ""


def ask(
    id: str,
    label: str,
    unit: str,
    low: float,
    high: float,
    default: float,
    help: str,
    scale: Scale = "linear",
    whole: bool = False,
) -> Parameter:
    """A question that is answered with a number."""
    return Parameter(
        id, label, unit, low, high, scale, default=default, help=help, movable=False, whole=whole
    )


def choose(id: str, label: str, choices: tuple[str, ...], help: str, default: int = 0) -> Parameter:
    """A question that is answered with one of some names."""
    return Parameter(
        id, label, "", 0, len(choices) - 1, "linear", default=default, help=help, movable=False,
        choices=choices,
    )  # fmt: skip


def frames(
    id: str, label: str, default: int, help: str, most: int = 250, least: int = 0
) -> Parameter:
    """A question that is answered with so many frames."""
    return ask(id, label, "f", least, most, default, help, whole=True)
