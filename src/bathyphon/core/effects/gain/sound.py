"""Gain: a level in dB that can move."""

from __future__ import annotations

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.decibels import gain_of_db
from bathyphon.core.effects.gain.table import TABLE
from bathyphon.core.effects.kit.engagement import swept
from bathyphon.core.effects.kit.processor import Processor
from bathyphon.core.effects.kit.settings import Settings


class Gain(Processor):
    """Multiply by the level; it has no memory."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Scale both sides by the level at each sample."""
        return x * gain_of_db(swept(TABLE, self._settings, "level_db", at, depth))


make = Gain
