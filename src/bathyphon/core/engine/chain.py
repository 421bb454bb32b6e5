"""A treatment at work: engagement of each effect, the ring-out, and their combined state."""

from __future__ import annotations

import weakref
from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property
from hashlib import blake2b

import numpy as np

from bathyphon.core.curves import Curve, Envelope, Floats, constant, glide_samples, least
from bathyphon.core.effects.base import (
    TAIL_LIMIT_SECONDS,
    Effect,
    Processor,
    Settings,
    State,
    engaged_blend,
    engaged_sweep,
    reached,
)
from bathyphon.core.effects.delays import delayed
from bathyphon.core.engine.edges import around, short_glide
from bathyphon.core.engine.media import Media
from bathyphon.core.reel import Chain, EffectPart, Treatment
from bathyphon.core.rules import effect_of, effect_settings, movable_curve, references

Probe = Callable[[str, int], None]
Hear = Callable[[str, int, int], Floats]
CLOSING_FADE_SECONDS = 0.02


@dataclass(frozen=True)
class Link:
    """One effect of a chain with its settings."""

    id: str
    effect: Effect
    settings: Settings

    @property
    def hears(self) -> str | None:
        """Id of the track that it listens to, if any."""
        reference = self.effect.reference
        if reference is None or reference.to != "track":
            return None
        return self.settings.refers.get(reference.id)


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
        Ramp in and out; for a clip, a track and the mix always 1. Of a span, what has no length is
        a step, and every step is a glide.
    set_ramp : Envelope
        The same as it is set: a ramp of no length is none.
    ring_out : str or int
        ``auto``, ``none`` or samples.
    sample_rate : int
    """

    links: tuple[Link, ...]
    length: int
    strength: Curve
    ramp: Envelope
    set_ramp: Envelope
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
    def lookaheads(self) -> tuple[int, ...]:
        """Samples that each link wants to see before it answers."""
        return tuple(link.effect.lookahead(link.settings) for link in self.links)

    @cached_property
    def lookahead(self) -> int:
        """Samples of input that the chain wants to see before it answers."""
        return sum(self.lookaheads)

    @cached_property
    def heard(self) -> frozenset[str]:
        """Ids of the tracks that some link listens to."""
        return frozenset(link.hears for link in self.links if link.hears)

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

    @cached_property
    def lasts(self) -> int:
        """Samples for which it may sound within its span after its input has ended."""
        rate = self.sample_rate
        return sum(
            link.effect.tail(link.settings)
            if link.effect.engages == "send"
            else link.effect.lasts(link.settings) + round(link.effect.lookback_s * rate)
            for link in self.links
        )

    @cached_property
    def opens_hard(self) -> bool:
        """Whether something is sent from the first sample on, with no ramp of its own."""
        return self.first_send < len(self.links) and self.set_ramp.head == 0

    @cached_property
    def around(self) -> int:
        """Samples on both sides of its first one that tell whether the sound begins there."""
        return around(self.sample_rate) if self.opens_hard else 0

    def edge(self, glides: bool) -> Envelope:
        """Glides at hard edges into a ``send``, as short as they can be.

        Parameters
        ----------
        glides : bool
            Whether there is one at the beginning; there is none where the sound begins itself.
        """
        glide = min(short_glide(self.sample_rate), self.length // 2)
        ramp = self.set_ramp
        return Envelope(
            self.length,
            glide if glides and not ramp.head else 0,
            "smooth",
            0 if ramp.foot else glide,
            "smooth",
        )

    def sent(self, at: int, n: int, edge: Envelope) -> Floats:
        """How much of the sound is sent, 0 to 1, at ``n`` samples from ``at`` on."""
        depth, share = self._with_strength(self.set_ramp, at, n), edge.values(at, n)
        if least(share) >= 1.0:
            return depth
        return share if least(depth) >= 1.0 else depth * share

    def depth(self, at: int, n: int) -> Floats:
        """How far the treatment is engaged, 0 to 1, at ``n`` samples from ``at`` on."""
        return self._with_strength(self.ramp, at, n)

    def _with_strength(self, shape: Envelope, at: int, n: int) -> Floats:
        ramp = shape.values(at, n)
        if not self.strength.moves and self.strength.keyframes[0].value == 100.0:
            return ramp
        return ramp * (self.strength.values(at, n, self.sample_rate) / 100.0)

    @cached_property
    def fixed(self) -> tuple[object, ...]:
        """What decides every result and never changes on the way.

        Values that move belong to it as far as what is built depends on all of them: how long a
        delay line must be, how far ahead must be looked.
        """
        return (
            self.sample_rate,
            self.ring_out == "none",
            self.first_send,
            self.lookaheads,
            tuple((link.id, link.effect.id, link.settings.fixed_values) for link in self.links),
            reached(self.strength),
        )

    def touching(self, start: int, stop: int) -> tuple[object, ...]:
        """What decides the result in ``[start, stop)``, apart from the input, earlier state and
        what is ``fixed``."""
        # Links before one that looks ahead are that far ahead themselves.
        stop += self.lookahead
        return (
            tuple(link.settings.touching(start, stop) for link in self.links),
            # From its end on, what is held is let go.
            max(0, stop - self.length),
            self.strength.touching(start, stop, self.sample_rate),
            self.ramp.touching(start, stop),
            # The glide at a hard edge depends on its length as ramps do.
            self.edge(True).touching(start, stop),
            self.release.touching(start, stop) if self.tail or self.ring_out == "none" else (),
            # Where a tail has been cut short or a span ends, the rest is the plain input.
            min(stop, self.length + self.tail) - start,
        )


def plan_of(
    chain: Chain,
    length: int,
    sample_rate: int,
    media: Media,
    frame_rate: float = 25.0,
    owner: str = "",
) -> Plan | None:
    """The plan of a chain over ``length`` samples; ``None`` if it can change nothing.

    The same object for the same chain: a track may have thousands, of which an edit changes one.
    """
    if not chain.effects:
        return None
    sounds = tuple(media.digest(id) for id in references(chain, "media"))
    asked = (length, sample_rate, frame_rate, owner, sounds)
    kept = _plans.get(id(chain))
    if kept is not None and kept[1] == asked:
        return kept[2]
    plan = _new_plan(chain, length, sample_rate, media, frame_rate, owner)
    # It goes with the chain, before another can have its identity.
    key = id(chain)
    gone = kept[0] if kept else weakref.ref(chain, lambda _: _plans.pop(key, None) and None)
    _plans[key] = (gone, asked, plan)
    return plan


_plans: dict[int, tuple[weakref.ref[Chain], tuple[object, ...], Plan | None]] = {}


def _new_plan(
    chain: Chain, length: int, sample_rate: int, media: Media, frame_rate: float, owner: str
) -> Plan | None:
    links = tuple(
        link_of(part, length, sample_rate, media, frame_rate, owner)
        for part in chain.effects
        if not part.bypass
    )
    strength = movable_curve(chain.strength)
    if not links or chain.bypass or strength.largest <= 0.0 or length <= 0:
        return None
    ramp = set_ramp = Envelope(length)
    if isinstance(chain, Treatment):
        glide = min(glide_samples(sample_rate), length // 2)
        head, foot = chain.ramp_in, chain.ramp_out
        set_ramp = Envelope(
            length, head.length, head.shape, foot.length, foot.shape, head.bend, foot.bend
        )
        # A ramp of no length is a step, and every step is a short glide.
        ramp = Envelope(
            length,
            head.length or min(glide, length - foot.length),
            head.shape if head.length else "smooth",
            foot.length or min(glide, length - head.length),
            foot.shape if foot.length else "smooth",
            head.bend,
            foot.bend,
        )
    return Plan(links, length, strength, ramp, set_ramp, chain.ring_out, sample_rate)


def link_of(
    part: EffectPart,
    length: int,
    sample_rate: int,
    media: Media,
    frame_rate: float = 25.0,
    owner: str = "",
) -> Link:
    """An effect with its settings, for an owner of ``length`` samples."""
    effect = effect_of(part)
    # Ids of effects are unique within their chain only.
    name = blake2b(f"{owner}/{part.id}".encode(), digest_size=6)
    settings = replace(
        effect_settings(part, sample_rate),
        length=length,
        frame_rate=frame_rate,
        seed=int.from_bytes(name.digest(), "little"),
    )
    if effect.reference and effect.reference.to == "media":
        longest = round(effect.reference.longest_s * sample_rate)
        sounds = {
            id: (media.digest(medium), media.response(medium, longest))
            for id, medium in settings.refers.items()
        }
        settings = replace(settings, sounds=sounds)
    return Link(part.id, effect, settings)


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
        wet = y if least(send) >= 1.0 else y * send
        y, self._direct = delayed(self._direct, y)
        for index in range(plan.first_send, len(plan.links)):
            wet = self._engage(index, wet, at + self._after[index], _whole, hear)
        release, send = plan.release.values(at, n), plan.sent(at, n, self._edge)
        if least(release) >= 1.0 and least(send) >= 1.0:
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
        if "amount" in link.settings.curves and link.settings.curves["amount"].smallest < 100.0:
            depth = depth * (link.settings.values("amount", at, n) / 100.0)
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
