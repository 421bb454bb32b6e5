"""A model as the rest of the program sees it: its folder, of which the table is read at once."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from importlib import import_module
from typing import TYPE_CHECKING, Any

from bathyphon.core.sounds.kit.table import Kind, ModelTable

if TYPE_CHECKING:
    from bathyphon.core.arrays import Floats
    from bathyphon.core.sounds.kit.stretch import Stretch


@dataclass(frozen=True)
class Model:
    """One folder of ``core/sounds``.

    ``sound.py`` holds ``sound(settings, stretch)`` and, for a hit, ``seconds(settings)``; it is
    imported when the sound is first asked for.

    Parameters
    ----------
    table : ModelTable
    package : str
        The folder, as it is imported.
    """

    table: ModelTable
    package: str

    @property
    def id(self) -> str:
        """Name in files."""
        return self.table.id

    @property
    def kind(self) -> Kind:
        """Whether it goes on for ever or ends."""
        return self.table.kind

    def settings(self, given: Mapping[str, Any]) -> dict[str, float]:
        """Values for all parameters: what is given, else the defaults.

        Raises
        ------
        Refused
            Where a value is none, or lies outside of its range.
        """
        return {row.id: row.read(given.get(row.id, row.default)) for row in self.table.parameters}

    def seconds(self, settings: Mapping[str, float]) -> float:
        """How long a hit sounds with these settings."""
        return float(self._sound.seconds(settings))

    def sound(self, settings: Mapping[str, float], stretch: Stretch) -> Floats:
        """A stretch of it before it is levelled, shape (2, n)."""
        sound: Floats = self._sound.sound(settings, stretch)
        return sound

    @cached_property
    def _sound(self) -> Any:
        return import_module(f"{self.package}.sound")
