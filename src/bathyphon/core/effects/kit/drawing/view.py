"""What a drawing is made from."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from bathyphon.core.arrays import Floats
from bathyphon.core.effects.kit.drawing.held import held
from bathyphon.core.effects.kit.drawing.model import Drawing
from bathyphon.core.effects.kit.effect import Effect
from bathyphon.core.effects.kit.settings import Settings


@dataclass(frozen=True)
class View:
    """An effect at one moment.

    Parameters
    ----------
    effect : Effect
    settings : Settings
        With its owner's length, and all that moves.
    at : int
        Sample from the owner's start.
    sound : ndarray of float64, shape (2, n), optional
        What is treated around there.
    side : ndarray of float64, shape (2, n), optional
        What the effect listens to there.
    """

    effect: Effect
    settings: Settings
    at: int
    sound: Floats | None = None
    side: Floats | None = None

    @cached_property
    def now(self) -> Settings:
        """The settings with every parameter held as it is at this moment."""
        return held(self.settings, self.at)


def draw(
    effect: Effect,
    settings: Settings,
    at: int,
    sound: Floats | None = None,
    side: Floats | None = None,
) -> Drawing | None:
    """What an effect does at a sample of its owner; parameters as in :class:`View`."""
    return effect.drawing(View(effect, settings, at, sound, side))
