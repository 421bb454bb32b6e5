"""A running effect."""

from __future__ import annotations

from abc import ABC, abstractmethod
from typing import Any

from numpy.typing import NDArray

from bathyphon.core.arrays import Floats

State = tuple[NDArray[Any], ...]


class Processor(ABC):
    """A running effect: a state and ``process(block)``.

    What every effect keeps to, and ``tests/core/effects/test_conformance.py`` checks:

    * Results do not depend on how the time line is cut into blocks, nor on where one goes on from a
      state that was copied before.
    * Blocks come in order and without gaps; the first lies ``lookback`` samples before the span,
      at depth 0, so that filters have settled where it engages.
    * With ``lookahead`` L, input runs L samples ahead of output: a block given for output from
      ``at`` on holds the input from ``at + L`` on. What is not delayed by nature is held back.
    * Lines are as long as the settings' curves reach at all (``curve.largest``), not as they stand
      at the beginning: settings never change while a processor runs.
    * The input may be overwritten only if it is returned. Arrays of values are shared and are never
      written to.
    * Sound stays finite for every setting in range, and silence decays to exact zeros rather than
      to denormal numbers, which are slow.
    """

    @abstractmethod
    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Treat one block.

        Parameters
        ----------
        x : ndarray of float64, shape (2, n)
            Input, in one piece. It may be overwritten only if it is returned.
        at : int
            Position of the block's first sample from the treatment's start.
        depth : ndarray of float64, shape (n,)
            How far a ``sweep`` has come from its neutral settings, 0 to 1; others ignore it.

        Returns
        -------
        ndarray of float64, shape (2, n)
            With a lookahead of L, the output for the sample L before the input's; parameters are
            those of the output's place: ``at`` is where the output lies.
        """

    def hear(self, side: Floats) -> None:
        """Take what another track plays during the next block, shape (2, n)."""

    def state(self) -> State:
        """A copy of all that later output depends on."""
        return ()

    def restore(self, state: State) -> None:
        """Continue from a state that :meth:`state` gave."""
