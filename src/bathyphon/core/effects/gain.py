"""Gain: a level in dB that can move."""

from __future__ import annotations

from bathyphon.core.curves import Floats, gain_of_db
from bathyphon.core.effects.base import Effect, Parameter, Processor, Settings, swept


class Gain(Processor):
    """Multiply by the level; it has no memory."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Scale both sides by the level at each sample."""
        return x * gain_of_db(swept(EFFECT, self._settings, "level_db", at, depth))


EFFECT = Effect(
    id="gain",
    label="Gain",
    engages="sweep",
    parameters=(
        Parameter(
            "level_db",
            "Level",
            "dB",
            -96.0,
            24.0,
            "db",
            default=-6.0,
            neutral=0.0,
            help="Louder or quieter; −96 dB is silence.",
        ),
    ),
    telling=("level_db",),
    make=Gain,
    help="Raise or lower the level.",
)
