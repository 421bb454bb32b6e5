"""A treatment at work: engagement of each effect, the ring-out, and their combined state."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from bathyphon.core.curves import Curve, Envelope, Floats, glide_samples
from bathyphon.core.effects.base import (
    TAIL_LIMIT_SECONDS,
    Effect,
    Processor,
    Settings,
    State,
    engaged_sweep,
)
from bathyphon.core.reel import Chain, Treatment
from bathyphon.core.rules import effect_of, effect_settings, movable_curve

Probe = Callable[[str, int], None]
CLOSING_FADE_SECONDS = 0.02


@dataclass(frozen=True)
class Link:
    """One effect of a chain with its settings."""

    id: str
    effect: Effect
    settings: Settings


@dataclass(frozen=True)
class Plan:
    """Everything that a treatment does, on the time line of its owner.

    Parameters
    ----------
    links : tuple of Link
        Effects that are not bypassed, in order.
    length : int
        Samples of the span.
    strength : Curve
        0 to 100 %, at samples from the span's start.
    ramp : Envelope
        Ramp in and out; for a clip, a track and the mix always 1.
    edge : Envelope
        Glide at the span's hard edges into a ``send``.
    ring_out : str or int
        ``auto``, ``none`` or samples.
    sample_rate : int
    """

    links: tuple[Link, ...]
    length: int
    strength: Curve
    ramp: Envelope
    edge: Envelope
    ring_out: str | int
    sample_rate: int

    @cached_property
    def first_send(self) -> int:
        """Index of the first ``send``; the number of links if there is none."""
        return next(
            (i for i, link in enumerate(self.links) if link.effect.engages == "send"),
            len(self.links),
        )

    @cached_property
    def natural_tail(self) -> int:
        """Samples after the span's end that the chain sounds by itself (ENGINE rules, 2)."""
        if self.first_send == len(self.links) or self.strength.largest <= 0.0:
            return 0
        total = sum(link.effect.tail(link.settings) for link in self.links[self.first_send :])
        return min(total, TAIL_LIMIT_SECONDS * self.sample_rate)

    @cached_property
    def lookback(self) -> int:
        """Samples before the span that the chain is fed, at depth 0, to settle."""
        seconds = sum(link.effect.lookback_s for link in self.links[: self.first_send])
        return round(seconds * self.sample_rate)

    @cached_property
    def tail(self) -> int:
        """Samples after the span's end that are heard."""
        if self.ring_out == "none" or self.natural_tail == 0:
            return 0
        return self.natural_tail if self.ring_out == "auto" else int(self.ring_out)

    @cached_property
    def release(self) -> Envelope:
        """How the wet sound is let go: 1, then a fade that ends with the tail."""
        end = self.length + self.tail
        if self.ring_out == "none":
            return Envelope(
                end, foot=min(glide_samples(self.sample_rate), end), foot_shape="smooth"
            )
        if self.ring_out == "auto":
            fade = round(CLOSING_FADE_SECONDS * self.sample_rate)
            return Envelope(end, foot=min(fade, self.tail), foot_shape="smooth")
        return Envelope(end, foot=self.tail // 4, foot_shape="equal_power")

    def touching(self, start: int, stop: int) -> tuple[object, ...]:
        """What decides the result in ``[start, stop)``, apart from the input and earlier state."""
        return (
            self.first_send,
            tuple((link.effect.id, link.settings.touching(start, stop)) for link in self.links),
            # From its end on, what is held is let go.
            max(0, stop - self.length),
            self.strength.touching(start, stop, self.sample_rate),
            self.ramp.touching(start, stop),
            self.edge.touching(start, stop),
            self.release.touching(start, stop) if self.tail or self.ring_out == "none" else (),
            # Where a tail has been cut short or a span ends, the rest is the plain input.
            min(stop, self.length + self.tail) - start,
        )


def plan_of(chain: Chain, length: int, sample_rate: int) -> Plan | None:
    """The plan of a chain over ``length`` samples; ``None`` if it can change nothing."""
    links = tuple(
        Link(part.id, effect_of(part), replace(effect_settings(part, sample_rate), length=length))
        for part in chain.effects
        if not part.bypass
    )
    strength = movable_curve(chain.strength)
    if not links or chain.bypass or strength.largest <= 0.0 or length <= 0:
        return None
    glide = min(glide_samples(sample_rate), length // 2)
    edge = Envelope(length, glide, "smooth", glide, "smooth")
    ramp = Envelope(length)
    if isinstance(chain, Treatment):
        head, foot = chain.ramp_in, chain.ramp_out
        # A ramp of no length is a step, and every step is a short glide.
        ramp = Envelope(
            length,
            head.length or min(glide, length - foot.length),
            head.shape if head.length else "smooth",
            foot.length or min(glide, length - head.length),
            foot.shape if foot.length else "smooth",
        )
        edge = Envelope(length)
    return Plan(links, length, strength, ramp, edge, chain.ring_out, sample_rate)


class Running:
    """A plan with the state of its processors."""

    def __init__(self, plan: Plan, probe: Probe | None = None) -> None:
        self.plan = plan
        self._probe = probe
        self.reset()

    def reset(self) -> None:
        """Begin again, with empty memories."""
        self._processors: list[Processor] = [
            link.effect.make(link.settings) for link in self.plan.links
        ]

    def state(self) -> tuple[State, ...]:
        """A copy of all memories."""
        return tuple(p.state() for p in self._processors)

    def restore(self, state: tuple[State, ...]) -> None:
        """Continue from a state."""
        for processor, part in zip(self._processors, state, strict=True):
            processor.restore(part)

    def process(self, x: Floats, at: int) -> Floats:
        """Treat samples ``at … at + n − 1`` of the span or its tail; shape (2, n)."""
        plan = self.plan
        n = x.shape[1]
        depth = plan.ramp.values(at, n) * (plan.strength.values(at, n, plan.sample_rate) / 100.0)
        y = x
        for index in range(plan.first_send):
            y = self._engage(index, y, at, depth)
        if plan.first_send == len(plan.links):
            return y
        send = depth * plan.edge.values(at, n)
        release = plan.release.values(at, n)
        wet = y * send
        full = np.ones(n)
        for index in range(plan.first_send, len(plan.links)):
            wet = self._engage(index, wet, at, full)
        return (1.0 - release * send) * y + release * wet

    def _engage(self, index: int, x: Floats, at: int, depth: Floats) -> Floats:
        link = self.plan.links[index]
        if self._probe:
            self._probe(link.id, x.shape[1])
        if "amount" in link.settings.curves:
            depth = depth * (link.settings.values("amount", at, depth.size) / 100.0)
        fx = self._processors[index].process(x, at, depth)
        if link.effect.engages == "send":
            return fx
        if link.effect.engages == "sweep":
            return engaged_sweep(x, fx, depth)
        return (1.0 - depth) * x + depth * fx
