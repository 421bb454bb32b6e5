"""The middle, delayed, added on the left and taken off on the right: in mono nothing is left of it.

M. R. Schroeder, "An artificial stereophonic effect obtained from a single audio signal", J. Audio
Eng. Soc. 6, 1958.
"""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.delays import delayed
from bathyphon.core.effects.kit.engagement import swept
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.effects.widen.reach import delay
from bathyphon.core.effects.widen.table import TABLE


class Widen(Processor):
    """Left + g·middle(t − d), right − g·middle(t − d)."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._waiting = np.zeros((1, delay(settings)))

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Widen one block."""
        late, self._waiting = delayed(self._waiting, 0.5 * (x[:1] + x[1:]))
        side = late[0] * (swept(TABLE, self._settings, "width", at, depth) / 100.0)
        return np.stack([x[0] + side, x[1] - side])

    def state(self) -> State:
        """What waits."""
        return (self._waiting.copy(),)

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._waiting = state[0].copy()


make = Widen
