"""A treatment at work: engagement of each effect, the ring-out, and their combined state."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.delays import delayed
from bathyphon.core.effects.kit.engagement import engaged_blend, engaged_sweep
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.engine.plan import Plan
from bathyphon.core.timing.constants import constant, lowest

Probe = Callable[[str, int], None]
Hear = Callable[[str, int, int], Floats]


class Running:
    """A plan with the state of its processors.

    Links that look ahead answer late; all others are run so much earlier that everything meets
    again at the output, and what passes a link untreated waits for what it has treated.
    """

    def __init__(self, plan: Plan, probe: Probe | None = None) -> None:
        self.plan = plan
        self._probe = probe
        ahead = 0
        self._after = [0] * len(plan.links)
        for index in reversed(range(len(plan.links))):
            self._after[index] = ahead
            ahead += plan.lookaheads[index]
        self.reset()

    def reset(self) -> None:
        """Begin again, with empty memories."""
        plan = self.plan
        self._processors: list[Processor] = [link.effect.make(link.settings) for link in plan.links]
        self._waiting = [np.zeros((2, n)) for n in plan.lookaheads]
        self._direct = np.zeros((2, sum(plan.lookaheads[plan.first_send :])))
        self.open(glides=True)

    def open(self, glides: bool) -> None:
        """Say whether the sound was there before the span begins, so that its edge must glide."""
        self._glides = glides
        self._edge = self.plan.edge(glides)

    def state(self) -> tuple[State, ...]:
        """A copy of all memories."""
        waiting = tuple(w.copy() for w in (*self._waiting, self._direct))
        return (*(p.state() for p in self._processors), waiting, (np.array(self._glides),))

    def restore(self, state: tuple[State, ...]) -> None:
        """Continue from a state."""
        *parts, waiting, (glides,) = state
        for processor, part in zip(self._processors, parts, strict=True):
            processor.restore(part)
        *self._waiting, self._direct = (w.copy() for w in waiting)
        self.open(bool(glides))

    def process(self, x: Floats, at: int, hear: Hear | None = None) -> Floats:
        """Yield samples ``at … at + n − 1`` of the treated span or its tail.

        Parameters
        ----------
        x : ndarray of float64, shape (2, n)
            Input from ``at + lookahead`` on.
        at : int
            Place of the output's first sample, counted from the span's start.
        hear : callable, optional
            ``(track, start, stop) → (2, n)``: what another track plays there.

        Returns
        -------
        ndarray of float64, shape (2, n)
        """
        plan = self.plan
        n = x.shape[1]
        y = x
        for index in range(plan.first_send):
            y = self._engage(index, y, at + self._after[index], plan.depth, hear)
        if plan.first_send == len(plan.links):
            return y
        ahead = self._direct.shape[1]
        send = plan.sent(at + ahead, n, self._edge)
        wet = y if lowest(send) >= 1.0 else y * send
        y, self._direct = delayed(self._direct, y)
        for index in range(plan.first_send, len(plan.links)):
            wet = self._engage(index, wet, at + self._after[index], _whole, hear)
        release, send = plan.release.values(at, n), plan.sent(at, n, self._edge)
        if lowest(release) >= 1.0 and lowest(send) >= 1.0:
            return wet
        direct = 1.0 - release * send
        wet = release * wet
        return np.where(direct == 0.0, wet, direct * y + wet)

    def _engage(
        self, index: int, x: Floats, at: int, depth_of: Callable[[int, int], Floats],
        hear: Hear | None,
    ) -> Floats:  # fmt: skip
        link = self.plan.links[index]
        n = x.shape[1]
        depth = depth_of(at, n)
        if self._probe:
            self._probe(link.id, n)
        scale = link.effect.strength
        if scale and link.settings.curves[scale].smallest < 100.0:
            depth = depth * (link.settings.values(scale, at, n) / 100.0)
        if hear and link.hears:
            ahead = self.plan.lookaheads[index]
            self._processors[index].hear(plain(hear(link.hears, at + ahead, at + ahead + n)))
        waiting = self._waiting[index]
        x = plain(x)
        fx = self._processors[index].process(x, at, depth)
        if waiting.shape[1]:
            x, self._waiting[index] = delayed(waiting, x)
        if link.effect.engages == "send":
            return fx
        if link.effect.engages == "sweep":
            return engaged_sweep(x, fx, depth)
        return engaged_blend(x, fx, depth)


def plain(x: Floats) -> Floats:
    """The same samples in one piece that may be written to.

    To the compiler, a part of a larger array and what may not be written to are other types: it
    would compile every effect for each of them, for seconds, while somebody waits for sound.
    """
    return x if x.flags.c_contiguous and x.flags.writeable else np.array(x, order="C")


def _whole(at: int, n: int) -> Floats:
    return constant(1.0, n)
