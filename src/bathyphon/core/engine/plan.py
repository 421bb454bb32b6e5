"""From a chain of the document to a plan: everything that a treatment does, before it sounds."""

from __future__ import annotations

import weakref
from dataclasses import dataclass, replace
from functools import cached_property
from hashlib import blake2b

from bathyphon.core.arrays import Floats
from bathyphon.core.effects.kit.effect import Effect
from bathyphon.core.effects.kit.settings import Settings, reached
from bathyphon.core.effects.kit.tails import TAIL_LIMIT_SECONDS
from bathyphon.core.engine.edges import around, short_glide
from bathyphon.core.engine.media import Media
from bathyphon.core.reel.chains import references
from bathyphon.core.reel.model import Chain, EffectPart, Treatment
from bathyphon.core.reel.values import effect_curves, effect_of, movable_curve
from bathyphon.core.timing.constants import lowest
from bathyphon.core.timing.curves import Curve
from bathyphon.core.timing.envelopes import Envelope
from bathyphon.core.timing.shapes import glide_samples

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
        return sum(link.effect.lookback(link.settings) for link in self.links[: self.first_send])

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
        return sum(
            link.effect.tail(link.settings)
            if link.effect.engages == "send"
            else link.effect.lasts(link.settings) + link.effect.lookback(link.settings)
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
        if lowest(share) >= 1.0:
            return depth
        return share if lowest(depth) >= 1.0 else depth * share

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


def effect_settings(part: EffectPart, sample_rate: int) -> Settings:
    """All parameters of an effect, completed by its defaults."""
    effect = effect_of(part)
    refers = {}
    if effect.reference and part.params.get(effect.reference.id):
        refers[effect.reference.id] = str(part.params[effect.reference.id])
    return effect.settings(effect_curves(part), sample_rate, refers)
