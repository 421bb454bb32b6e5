"""An effect as the rest of the program sees it: its folder, of which the table is read at once."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from functools import cached_property
from importlib import import_module
from importlib.util import find_spec
from typing import TYPE_CHECKING, Any

from bathyphon.core.effects.kit.advice import Advice
from bathyphon.core.effects.kit.preset import Preset, preset_params
from bathyphon.core.effects.kit.table import Engagement, Group, Parameter, Pattern, Reference, Table

if TYPE_CHECKING:
    from bathyphon.core.effects.kit.drawing.model import Drawing
    from bathyphon.core.effects.kit.drawing.view import View
    from bathyphon.core.effects.kit.processor import Processor
    from bathyphon.core.effects.kit.settings import Settings
    from bathyphon.core.timing.curves import Curve

FIRST = 3
"""Values that are seen at first where a table does not say which."""


@dataclass(frozen=True)
class Effect:
    """One folder of ``core/effects``.

    Only its table is read when the program starts. Everything else is imported when it is first
    asked for: whoever lists effects or edits a reel computes no sound, and need not wait for what
    does.

    Parameters
    ----------
    table : Table
    package : str
        The folder, as it is imported.
    """

    table: Table
    package: str

    @property
    def id(self) -> str:
        """Name in documents."""
        return self.table.id

    @property
    def label(self) -> str:
        """Name on screen."""
        return self.table.label

    @property
    def engages(self) -> Engagement:
        """How a treatment's strength reaches it."""
        return self.table.engages

    @property
    def parameters(self) -> tuple[Parameter, ...]:
        """What can be set, the most telling first."""
        return self.table.parameters

    @property
    def group(self) -> Group | None:
        """Parameters that come several times, if there are any."""
        return self.table.group

    @property
    def reference(self) -> Reference | None:
        """What of the reel it can name, if anything."""
        return self.table.reference

    @property
    def hatch(self) -> Pattern:
        """How its spans are drawn."""
        return self.table.hatch

    @property
    def strength(self) -> str | None:
        """Id of the parameter that scales how far it is engaged, if it has one."""
        return self.table.strength

    def parameter(self, id: str) -> Parameter | None:
        """The row of that name, see :meth:`Table.parameter`."""
        return self.table.parameter(id)

    def settings(
        self,
        given: Mapping[str, Curve],
        sample_rate: int,
        refers: Mapping[str, str] | None = None,
    ) -> Settings:
        """Complete what a document gives with the table's defaults."""
        from bathyphon.core.effects.kit.settings import completed

        return completed(self.table, given, sample_rate, refers)

    def make(self, settings: Settings) -> Processor:
        """Its processor, from ``sound.py``."""
        processor: Processor = self._sound.make(settings)
        if not self.table.output:
            return processor
        # Like the sound itself, only when it is to be heard.
        kit = import_module("bathyphon.core.effects.kit.level")
        levelled: Processor = kit.with_level(processor, self.table, settings)
        return levelled

    def tail(self, settings: Settings) -> int:
        """Samples that sound on after the input has ended, from ``reach.py``; else none."""
        return self._reached("tail", settings)

    def lasts(self, settings: Settings) -> int:
        """Samples for which it sounds on within its span after its input has ended.

        Beside what its memories take to settle; from ``reach.py``, else none.
        """
        return self._reached("lasts", settings)

    def lookahead(self, settings: Settings) -> int:
        """Samples of input that it wants to see before it answers; from ``reach.py``, else none."""
        return self._reached("lookahead", settings)

    def lookback(self, settings: Settings) -> int:
        """Samples of input from before its span that it is fed, to settle.

        What its table says, or more if ``reach.py`` does.
        """
        least = round(self.table.lookback_s * settings.sample_rate)
        return max(least, self._reached("lookback", settings))

    def drawing(self, view: View) -> Drawing | None:
        """What it does at one moment, from ``drawing.py``; none where only words could show it."""
        drawing: Drawing | None = self._part("drawing").draw(view)
        return drawing

    def lengths(self, values: Mapping[str, float | str]) -> Mapping[str, float]:
        """Other units that its times may be typed in, and milliseconds of one of each.

        From ``units.py``, else none; they may depend on what else is set.
        """
        rule = getattr(self._units, "lengths", None)
        return rule(values) if rule else {}

    @cached_property
    def presets(self) -> Sequence[Preset]:
        """Its starting points in the order in which they are offered, from ``presets.py``."""
        presets: Sequence[Preset] = self._part("presets").PRESETS
        return presets

    def preset(self, name: str, length: int) -> dict[str, Any]:
        """Parameters of a preset for an owner of so many samples; refuses an unknown name."""
        return preset_params(self.id, self.presets, name, length)

    @cached_property
    def example(self) -> Mapping[str, Any]:
        """Parameters that let all of its code run, from ``example.py``."""
        params: Mapping[str, Any] = self._part("example").EXAMPLE
        return params

    @cached_property
    def advice(self) -> Advice:
        """What to listen for, where to begin and when not to, from ``advice.py``."""
        advice: Advice = self._part("advice").ADVICE
        return advice

    def plain(self) -> dict[str, Any]:
        """Its table as plain data, for the API and the command line."""
        table = self.table
        return {
            "id": table.id,
            "label": table.label,
            "engages": table.engages,
            "telling": list(table.telling),
            "added": dict(table.added),
            "first": list(table.first or (p.id for p in table.parameters[:FIRST])),
            "help": table.help,
            "advice": asdict(self.advice),
            "parameters": [asdict(p) for p in table.parameters],
            "group": asdict(table.group) if table.group else None,
            "reference": asdict(table.reference) if table.reference else None,
            "hatch": asdict(table.hatch),
        }

    def _part(self, name: str) -> Any:
        return import_module(f"{self.package}.{name}")

    @cached_property
    def _sound(self) -> Any:
        return self._part("sound")

    @cached_property
    def _reach(self) -> Any:
        return self._part("reach") if find_spec(f"{self.package}.reach") else None

    @cached_property
    def _units(self) -> Any:
        return self._part("units") if find_spec(f"{self.package}.units") else None

    def _reached(self, name: str, settings: Settings) -> int:
        rule = getattr(self._reach, name, None)
        return int(rule(settings)) if rule else 0
