"""The graph of a reel: clips, treatments, tracks and the mix as nodes that yield sound."""

from __future__ import annotations

from abc import ABC, abstractmethod

import numpy as np

from bathyphon.core.curves import Curve, Envelope, Floats, gain_of_db, still
from bathyphon.core.engine.chain import Plan
from bathyphon.core.engine.media import Media
from bathyphon.core.engine.pan import pan_gains
from bathyphon.core.engine.sped import SpedSound


def scaled_by(x: Floats, gain: Floats) -> None:
    """Multiply in place by a gain, of one value or of one for each sample."""
    if gain.size > 1 or gain[0] != 1.0:
        x *= gain


def rounded(x: Floats, gain: Floats) -> Floats:
    """Samples times a gain as above, to the precision of float32."""
    if gain.size == 1 and gain.flat[0] == 1.0:
        single = x.astype(np.float32)
    else:
        single = np.empty(x.shape, np.float32)
        # Worked out in float64, and rounded on its way out.
        np.multiply(x, gain, out=single, dtype=np.float64, casting="same_kind")
    return single.astype(np.float64)


class Node(ABC):
    """One place in the signal flow.

    Parameters
    ----------
    name : str
        Path in the document, unique within a graph.
    inputs : tuple of Node
    begins, ends : int
        Outside ``[begins, ends)`` the output is silence.
    """

    def __init__(self, name: str, inputs: tuple[Node, ...], begins: int, ends: int) -> None:
        self.name = name
        self.inputs = inputs
        self.begins = begins
        self.ends = ends

    def silent(self, start: int, stop: int) -> bool:
        """Whether nothing sounds in ``[start, stop)``."""
        return stop <= self.begins or start >= self.ends

    @abstractmethod
    def touching(self, start: int, stop: int) -> object:
        """What decides the output in ``[start, stop)`` apart from the inputs."""


class ClipNode(Node):
    """A clip: media, gain and fades; ``sped`` reads its medium at another speed or pitch.

    ``origin`` are the samples of the stream that it reads before the clip begins.
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
        sped: SpedSound | None = None,
        origin: int = 0,
    ) -> None:
        super().__init__(name, (), start, start + length)
        self._sped = sped
        self._origin = origin
        self._media = media
        self._start = start
        self._source_start = source_start
        self._gain_db = gain_db
        self._fades = fades
        self._rate = sample_rate
        self.digest = ""
        self.speed: object = None

    def render(self, media: Media, start: int, stop: int) -> Floats:
        """The clip's sound in ``[start, stop)`` of the reel, shape (2, stop − start)."""
        a, b = max(start, self.begins), min(stop, self.ends)
        if a >= b:
            return np.zeros((2, stop - start))
        at = a - self._start
        n = b - a
        first = self._source_start + at
        read = (
            media.read(self._media, first, first + n)
            if self._sped is None
            else self._sped.read(media, self._origin + at, self._origin + at + n)
        )
        # A copy of its own, in one piece.
        sound = np.array(read, np.float64, order="C")
        gain = gain_of_db(still(self._gain_db.values(at, n, self._rate)))
        scaled_by(sound, gain * still(self._fades.values(at, n)))
        if n == stop - start:
            return sound
        out = np.zeros((2, stop - start))
        out[:, a - start : b - start] = sound
        return out

    def touching(self, start: int, stop: int) -> object:
        """Medium, place in it, gain and fades."""
        a, b = start - self._start, stop - self._start
        fades = self._fades.touching(a, b)
        return (
            self.digest,
            self.speed,
            (self._source_start, self._origin + a) if self._sped else self._source_start + a,
            max(start, self.begins) - start,
            min(stop, self.ends) - start,
            self._gain_db.touching(a, b, self._rate),
            fades,
            # Where level moves, the place in the clip matters, not only the place in the medium.
            a if fades or self._gain_db.moves else None,
        )


class TreatedNode(Node):
    """A treatment on what comes in; outside its span and tail it passes the input on.

    ``sides`` are the tracks that it listens to, by their ids.
    """

    def __init__(
        self, name: str, source: Node, plan: Plan, start: int, sides: dict[str, Node]
    ) -> None:
        ends = max(source.ends, start + plan.length + plan.tail if plan.tail else source.ends)
        super().__init__(name, (source, *sides.values()), source.begins, ends)
        self.sides = sides
        self.plan = plan
        self.start = start
        self.stop = start + plan.length + plan.tail

    @property
    def source(self) -> Node:
        """What is treated."""
        return self.inputs[0]

    def idle(self, start: int, stop: int) -> bool:
        """Whether ``[start, stop)`` lies outside the span and its tail."""
        return stop <= self.start or start >= self.stop

    def touching(self, start: int, stop: int) -> object:
        """The plan in ``[start, stop)``."""
        return (start - self.start, self.plan.touching(start - self.start, stop - self.start))


class SumNode(Node):
    """Inputs added in document order."""

    def __init__(self, name: str, inputs: tuple[Node, ...]) -> None:
        begins = min((i.begins for i in inputs), default=0)
        ends = max((i.ends for i in inputs), default=0)
        super().__init__(name, inputs, begins, ends)

    def touching(self, start: int, stop: int) -> object:
        """Nothing but its inputs."""
        return "sum"


class LevelNode(Node):
    """Gain and pan of a track, or the gain of the mix.

    Its output is rounded to float32, so that stems written as float32 add up to the mix's input
    bit for bit.
    """

    def __init__(
        self, name: str, source: Node, gain_db: Curve, pan: Curve | None, sample_rate: int
    ) -> None:
        super().__init__(name, (source,), source.begins, source.ends)
        self._gain_db = gain_db
        self._pan = pan
        self._rate = sample_rate

    def apply(self, x: Floats, start: int) -> Floats:
        """Level and pan of samples from ``start``, shape (2, n)."""
        n = x.shape[1]
        gain = gain_of_db(still(self._gain_db.values(start, n, self._rate)))
        if self._pan is None or not (self._pan.moves or self._pan.largest != 0.0):
            return rounded(x, gain)
        y = x * gain
        return rounded(y, pan_gains(still(self._pan.values(start, n, self._rate))))

    def touching(self, start: int, stop: int) -> object:
        """Gain and pan."""
        curves = [self._gain_db] + ([self._pan] if self._pan else [])
        return (
            [curve.touching(start, stop, self._rate) for curve in curves],
            start if any(curve.moves for curve in curves) else None,
        )
