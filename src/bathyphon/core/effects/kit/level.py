"""How loud an effect comes out: the last control of effects that change loudness by the way."""

from __future__ import annotations

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.decibels import gain_of_db
from bathyphon.core.effects.kit.engagement import swept
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.effects.kit.table import Table
from bathyphon.core.timing.constants import still


def with_level(processor: Processor, table: Table, settings: Settings) -> Processor:
    """A processor that comes out at the level that is set; itself where that is 0 dB throughout."""
    curve = settings.curves[table.output]
    if not curve.moves and curve.keyframes[0].value == 0.0:
        return processor
    return _AtLevel(processor, table, settings)


class _AtLevel(Processor):
    """Another processor, louder or quieter; it has no memory of its own."""

    def __init__(self, inner: Processor, table: Table, settings: Settings) -> None:
        self._inner = inner
        self._table = table
        self._settings = settings

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """What the other makes of a block, at its level."""
        y = self._inner.process(x, at, depth)
        id, n = self._table.output, y.shape[1]
        if self._table.engages == "sweep":
            level = swept(self._table, self._settings, id, at, depth)
        else:
            level = self._settings.values(id, at, n)
        return y * gain_of_db(still(level))

    def hear(self, side: Floats) -> None:
        self._inner.hear(side)

    def state(self) -> State:
        return self._inner.state()

    def restore(self, state: State) -> None:
        self._inner.restore(state)
