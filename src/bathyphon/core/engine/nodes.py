"""The graph of a reel: clips, treatments, tracks and the mix as nodes that yield sound."""

from __future__ import annotations

from abc import ABC, abstractmethod
from bisect import bisect_left
from functools import cached_property
from typing import TYPE_CHECKING

from bathyphon.core.engine.plan import Plan
from bathyphon.core.speed.change import SpeedChange
from bathyphon.core.timing.curves import Curve
from bathyphon.core.timing.envelopes import Envelope

if TYPE_CHECKING:
    from bathyphon.core.engine.sped import SpedSound
from bathyphon.core.engine.stretches import Stretches


class Node(ABC):
    """One place in the signal flow.

    What is silent is said by samples: a node may be left out only where it yields nothing at all.

    Parameters
    ----------
    name : str
        Path in the document, unique within a graph.
    inputs : tuple of Node
    begins, ends : int
        Outside ``[begins, ends)`` the output is silence.
    fades : int, optional
        Where what is heard of it has faded away; ``ends`` if it is not given.
    """

    def __init__(
        self,
        name: str,
        inputs: tuple[Node, ...],
        begins: int,
        ends: int,
        fades: int | None = None,
    ) -> None:
        self.name = name
        self.inputs = inputs
        self.begins = begins
        self.ends = ends
        self.fades = ends if fades is None else fades

    def silent(self, start: int, stop: int) -> bool:
        """Whether every sample in ``[start, stop)`` is silence."""
        return stop <= self.begins or start >= self.ends

    def through(self, start: int, stop: int) -> Node:
        """The node whose very output is passed on in ``[start, stop)``; itself if it is its own."""
        return self

    @abstractmethod
    def touching(self, start: int, stop: int) -> object:
        """What decides the output in ``[start, stop)`` apart from the inputs."""


class ClipNode(Node):
    """A clip: media, gain and fades; ``change`` is another speed or pitch.

    ``sped`` is its medium at that speed, exact and rough, each made when it is first heard.

    ``origin`` are the samples of the stream that it reads before the clip begins, ``opening`` the
    place in the medium at which it does.
    """

    def __init__(
        self,
        name: str,
        media: str,
        start: int,
        length: int,
        source_start: int,
        gain_db: Curve,
        fades: Envelope,
        sample_rate: int,
        change: SpeedChange | None = None,
        origin: int = 0,
        opening: int | None = None,
    ) -> None:
        super().__init__(name, (), start, start + length)
        self.change = change
        self.sped: dict[bool, SpedSound] = {}
        self.origin = origin
        self.media = media
        self.start = start
        self.source_start = source_start
        self.opening = source_start if opening is None else opening
        self.gain_db = gain_db
        self.envelope = fades
        self.rate = sample_rate
        self.digest = ""

    def touching(self, start: int, stop: int) -> object:
        """Medium, place in it, gain and fades."""
        a, b = start - self.start, stop - self.start
        fades = self.envelope.touching(a, b)
        return (
            self.digest,
            self.change,
            (self.source_start, self.origin + a) if self.change else self.source_start + a,
            max(start, self.begins) - start,
            min(stop, self.ends) - start,
            self.gain_db.touching(a, b, self.rate),
            fades,
            # Where level moves, the place in the clip matters, not only the place in the medium.
            a if fades or self.gain_db.moves else None,
        )


class TreatedNode(Node):
    """A treatment on what comes in; outside its span and tail it passes the input on.

    ``sides`` are the tracks that it listens to, by their ids. Its output begins to be worked out at
    ``first``, since there is nothing before the reel's first sample.
    """

    def __init__(
        self, name: str, source: Node, plan: Plan, start: int, sides: dict[str, Node]
    ) -> None:
        self.sides = sides
        self.plan = plan
        self.start = start
        self.first = max(0, start)
        self.stop = start + plan.length + plan.tail
        # It goes on when its source has faded away: to the end of its tail, or for as long as it
        # sounds by itself within its span.
        rings = self.stop if plan.tail else min(self.stop, source.fades + plan.lasts)
        super().__init__(
            name,
            (source, *sides.values()),
            min(source.begins, self.first),
            max(source.ends, self.stop),
            max(source.fades, rings),
        )

    @property
    def source(self) -> Node:
        """What is treated."""
        return self.inputs[0]

    @property
    def reach(self) -> int:
        """Samples before its first one that it wants to see."""
        return max(self.plan.lookback, self.plan.around)

    def idle(self, start: int, stop: int) -> bool:
        """Whether ``[start, stop)`` lies outside the span and its tail."""
        return stop <= self.first or start >= self.stop

    def silent(self, start: int, stop: int) -> bool:
        """Nothing that it makes within its span and tail is silence because its input is."""
        return self.idle(start, stop) and self.source.silent(start, stop)

    def through(self, start: int, stop: int) -> Node:
        """Its source, where it does nothing."""
        return self.source if self.idle(start, stop) else self

    def touching(self, start: int, stop: int) -> object:
        """The plan in ``[start, stop)``."""
        return (start - self.start, self.plan.touching(start - self.start, stop - self.start))


class SumNode(Node):
    """Inputs added in document order; only those are asked that sound."""

    def __init__(self, name: str, inputs: tuple[Node, ...]) -> None:
        super().__init__(
            name,
            inputs,
            min((i.begins for i in inputs), default=0),
            max((i.ends for i in inputs), default=0),
            max((i.fades for i in inputs), default=0),
        )
        self._stretches = Stretches([(i.begins, i.ends) for i in inputs])

    def sounding(self, start: int, stop: int) -> list[Node]:
        """Inputs that may sound in ``[start, stop)``."""
        near = [self.inputs[i] for i in self._stretches.touching(start, stop)]
        return [node for node in near if not node.silent(start, stop)]

    def silent(self, start: int, stop: int) -> bool:
        """Whether no input sounds."""
        return not self.sounding(start, stop)

    def through(self, start: int, stop: int) -> Node:
        """The only input that sounds, if there is one."""
        sounding = self.sounding(start, stop)
        return sounding[0] if len(sounding) == 1 else self

    def touching(self, start: int, stop: int) -> object:
        """Nothing but its inputs."""
        return "sum"


class Layers(Node):
    """A sound with the treatments of its spans, in document order, each over those before it.

    There may be thousands, of which a stretch of time meets a few: each takes its sound from the
    last one before it that does something there.
    """

    def __init__(self, name: str, base: Node) -> None:
        super().__init__(name, (base,), base.begins, base.ends, base.fades)
        self.treated: list[TreatedNode] = []

    @property
    def base(self) -> Node:
        """What is treated."""
        return self.inputs[0]

    def next_source(self) -> Node:
        """What the next treatment is given."""
        return _Below(self, len(self.treated))

    def add(self, treated: TreatedNode) -> None:
        """Add the next treatment; all are there before anything is asked."""
        self.treated.append(treated)
        self.begins = min(self.begins, treated.begins)
        self.ends = max(self.ends, treated.ends)
        self.fades = max(self.fades, treated.fades)

    @cached_property
    def _stretches(self) -> Stretches:
        return Stretches([(t.first, t.stop) for t in self.treated])

    def top(self, start: int, stop: int, below: int | None = None) -> Node:
        """The last treatment, before the one of a number, that does something there."""
        active = self._stretches.touching(start, stop)
        last = len(active) if below is None else bisect_left(active, below)
        return self.treated[active[last - 1]] if last else self.base

    def silent(self, start: int, stop: int) -> bool:
        """Whether neither the sound nor any treatment is heard."""
        return not self._stretches.touching(start, stop) and self.base.silent(start, stop)

    def through(self, start: int, stop: int) -> Node:
        """The last treatment there."""
        return self.top(start, stop)

    def touching(self, start: int, stop: int) -> object:
        """Nothing of its own."""
        return "layers"


class _Below(Node):
    """What one of several layers is given."""

    def __init__(self, layers: Layers, index: int) -> None:
        bounds = layers.begins, layers.ends, layers.fades
        super().__init__(f"{layers.name}.{index}", (layers,), *bounds)
        self._layers = layers
        self._index = index

    def silent(self, start: int, stop: int) -> bool:
        return self.through(start, stop).silent(start, stop)

    def through(self, start: int, stop: int) -> Node:
        return self._layers.top(start, stop, self._index)

    def touching(self, start: int, stop: int) -> object:
        return "below"


class LevelNode(Node):
    """Gain and pan of a track, or the gain of the mix.

    Its output is rounded to float32, so that stems written as float32 add up to the mix's input
    bit for bit.
    """

    def __init__(
        self, name: str, source: Node, gain_db: Curve, pan: Curve | None, sample_rate: int
    ) -> None:
        super().__init__(name, (source,), source.begins, source.ends, source.fades)
        self.gain_db = gain_db
        self.pan = pan
        self.rate = sample_rate

    def silent(self, start: int, stop: int) -> bool:
        """Whether its input is."""
        return self.inputs[0].silent(start, stop)

    def touching(self, start: int, stop: int) -> object:
        """Gain and pan."""
        curves = [self.gain_db] + ([self.pan] if self.pan else [])
        return (
            [curve.touching(start, stop, self.rate) for curve in curves],
            start if any(curve.moves for curve in curves) else None,
        )


def heard_from(node: Node, start: int, stop: int) -> Node:
    """The node that makes what a node yields in ``[start, stop)``."""
    while True:
        ahead = node.through(start, stop)
        if ahead is node:
            return node
        node = ahead
