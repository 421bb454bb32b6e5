"""What every effect is made of: a parameter table, a tail rule and a processor with state."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Callable, Mapping
from dataclasses import asdict, dataclass, field
from functools import cached_property
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.curves import Curve, Floats, Scale, constant, glide_from, least

Engagement = Literal["sweep", "send", "blend"]
State = tuple[NDArray[Any], ...]

SWEEP_IN = 0.02
"""Strength from which a sweep is wholly heard."""
TAIL_FALL_DB = 90.0
TAIL_LIMIT_SECONDS = 120
HIGHEST_FREQUENCY = 0.45


@dataclass(frozen=True)
class Parameter:
    """One row of an effect's table.

    Parameters
    ----------
    id, label, unit : str
        Name in documents, name on screen, unit (``Hz``, ``dB``, ``%``, ``ms`` or empty).
    low, high : float
        Range, inclusive.
    scale : {"linear", "log", "db"}
        In which the value is interpolated and its control is drawn.
    default : float or None
        Value where a document gives none; ``None`` stands for ``follows``.
    neutral : float or None
        Where a ``sweep`` comes from; ``None`` if the parameter does not glide.
    follows : str
        Id of the parameter whose value is used until this one is set.
    help : str
        What it does to the sound, in one sentence.
    movable : bool
        Whether it may have keyframes.
    whole : bool
        Whether only whole numbers make sense.
    choices : tuple of str
        Names that documents give instead of a number; inside, their index is used.
    """

    id: str
    label: str
    unit: str
    low: float
    high: float
    scale: Scale
    default: float | None
    neutral: float | None = None
    follows: str = ""
    help: str = ""
    movable: bool = True
    whole: bool = False
    choices: tuple[str, ...] = ()

    def chosen(self, value: object) -> int | None:
        """Index of a choice by its name, or by its number: −6 stands for “-6 dB”."""
        name = f"{value:g}" if isinstance(value, (int, float)) else str(value)
        for index, choice in enumerate(self.choices):
            if name in (choice, choice.split(" ")[0]):
                return index
        return None


@dataclass(frozen=True)
class Group:
    """Parameters that come several times: the bands of an equaliser.

    A document gives them as a list; inside, the parameter ``freq_hz`` of the first of ``bands`` is
    called ``bands.0.freq_hz``.
    """

    id: str
    label: str
    most: int
    parameters: tuple[Parameter, ...]


@dataclass(frozen=True)
class Reference:
    """A setting that names something of the reel: another track, or a medium.

    The document gives its id; an empty one stands for none. Of a medium no more than ``longest_s``
    seconds are used.
    """

    id: str
    label: str
    to: Literal["track", "media"]
    help: str = ""
    longest_s: float = 0.0


@dataclass(frozen=True)
class Settings:
    """The parameters of one effect in a document, every one of them a curve.

    ``given`` names those that the document sets itself; ``length`` counts the samples of its
    owner, at whose end what is held is let go; ``frame_rate`` are frames of the reel a second.
    ``refers`` holds the ids that references name, and ``sounds`` the media among them: their digest
    and their samples, of shape (2, n) or (4, n). Noise begins from ``seed``, so that no two effects
    of a reel make the same.
    """

    curves: Mapping[str, Curve]
    sample_rate: int
    given: frozenset[str] = frozenset()
    length: int | None = None
    frame_rate: float = 25.0
    refers: Mapping[str, str] = field(default_factory=dict)
    sounds: Mapping[str, tuple[str, NDArray[np.float32]]] = field(default_factory=dict)
    seed: int = 0

    def values(self, id: str, at: int, count: int) -> Floats:
        """Values of a parameter at samples ``at … at + count − 1`` of its owner."""
        return self.curves[id].values(at, count, self.sample_rate)

    def mapped(self, id: str, of: Callable[[Floats], Floats], at: int, count: int) -> Floats:
        """Values of a parameter after a function of each; once only if it never moves."""
        curve = self.curves[id]
        if curve.moves:
            found = of(self.values(id, at, count))
            return found if found.size == count else np.full(count, found[0])
        return constant(float(of(np.full(1, curve.keyframes[0].value))[0]), count)

    @cached_property
    def fixed_values(self) -> tuple[object, ...]:
        """What decides all values and never changes on the way, with how far what moves reaches."""
        return (
            self.sample_rate,
            self.frame_rate,
            self.seed,
            tuple(
                (id, id in self.given, reached(curve)) for id, curve in sorted(self.curves.items())
            ),
            tuple(sorted(self.refers.items())),
            tuple((id, digest) for id, (digest, _) in sorted(self.sounds.items())),
        )

    @cached_property
    def _moving(self) -> tuple[Curve, ...]:
        return tuple(curve for _, curve in sorted(self.curves.items()) if curve.moves)

    def touching(self, start: int, stop: int) -> tuple[object, ...]:
        """What decides the values that move in ``[start, stop)``."""
        return tuple(curve.touching(start, stop, self.sample_rate) for curve in self._moving)

    def fixed(self, id: str) -> float:
        """Value of a parameter that does not move."""
        return self.curves[id].keyframes[0].value

    def moves(self, *ids: str) -> bool:
        """Whether one of these parameters ever changes."""
        return any(self.curves[id].moves for id in ids)

    def choice(self, id: str) -> int:
        """Index of what was chosen."""
        return int(self.fixed(id))

    def entries(self, group: str) -> int:
        """How many entries a group has."""
        return len({id.split(".")[1] for id in self.curves if id.startswith(f"{group}.")})


def reached(curve: Curve) -> tuple[object, ...]:
    """What of a curve is the same everywhere: its first value, whether it moves, and how far."""
    first = curve.keyframes[0].value
    return (curve.scale, curve.straight, first, curve.moves, curve.smallest, curve.largest)


class Processor(ABC):
    """A running effect: a state and ``process(block)``.

    Results must not depend on how the time line is cut into blocks.
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


@dataclass(frozen=True)
class Effect:
    """An effect as the outside sees it.

    Parameters
    ----------
    id, label : str
        Name in documents and on screen.
    engages : {"sweep", "send", "blend"}
        How a treatment's strength reaches it.
    parameters : tuple of Parameter
        Its table, the most telling first.
    telling : tuple of str
        Ids of the values printed on its drawing.
    make : callable
        ``Settings → Processor``.
    tail : callable
        ``Settings → int``: samples that sound on after the input has ended.
    lookback_s : float
        Seconds of input from before its span that it is fed, so that its memories have settled.
    lasts : callable
        ``Settings → int``: samples for which it sounds on within its span after its input has
        ended, beside what its memories take to settle.
    lookahead : callable
        ``Settings → int``: samples of input that it wants to see before it answers.
    group : Group, optional
        Parameters that come several times.
    reference : Reference, optional
        What of the reel it can name.
    help : str
        What it is for, in one sentence.
    """

    id: str
    label: str
    engages: Engagement
    parameters: tuple[Parameter, ...]
    telling: tuple[str, ...]
    make: Callable[[Settings], Processor]
    tail: Callable[[Settings], int] = field(default=lambda settings: 0)
    help: str = ""
    lookback_s: float = 0.0
    lasts: Callable[[Settings], int] = field(default=lambda settings: 0)
    lookahead: Callable[[Settings], int] = field(default=lambda settings: 0)
    group: Group | None = None
    reference: Reference | None = None

    def parameter(self, id: str) -> Parameter | None:
        """The table's row of that name; of an entry of the group, its parameter's row."""
        rows = self.parameters
        first, _, rest = id.partition(".")
        if self.group and rest and first == self.group.id:
            number, _, id = rest.partition(".")
            if not number.isdecimal() or int(number) >= self.group.most:
                return None
            rows = self.group.parameters
        return next((p for p in rows if p.id == id), None)

    def settings(
        self,
        given: Mapping[str, Curve],
        sample_rate: int,
        refers: Mapping[str, str] | None = None,
    ) -> Settings:
        """Complete what a document gives with the table's defaults."""
        curves = dict(given)
        for p in self.parameters:
            if p.id not in curves and p.default is not None:
                curves[p.id] = Curve.constant(p.default, p.scale)
        for p in self.parameters:
            if p.id not in curves and p.follows:
                curves[p.id] = curves[p.follows]
        return Settings(curves, sample_rate, frozenset(given), refers=dict(refers or {}))

    def table(self) -> dict[str, Any]:
        """The effect as plain data, for the API and the command line."""
        return {
            "id": self.id,
            "label": self.label,
            "engages": self.engages,
            "telling": list(self.telling),
            "help": self.help,
            "parameters": [asdict(p) for p in self.parameters],
            "group": asdict(self.group) if self.group else None,
            "reference": asdict(self.reference) if self.reference else None,
        }


def swept(effect: Effect, settings: Settings, id: str, at: int, depth: Floats) -> Floats:
    """A parameter's values on their way from neutral, as far as ``depth`` says."""
    target = settings.values(id, at, depth.size)
    parameter = effect.parameter(id)
    if parameter is None or parameter.neutral is None:
        return target
    return glide_from(parameter.neutral, target, depth, parameter.scale)


def engaged_sweep(x: Floats, fx: Floats, depth: Floats) -> Floats:
    """Output of a ``sweep``: x + w·(f(x) − x) with w = smooth(min(1, depth / 0.02))."""
    if least(depth) >= SWEEP_IN:
        return fx
    u = np.minimum(depth / SWEEP_IN, 1.0)
    w = u * u * (3.0 - 2.0 * u)
    return np.where(w >= 1.0, fx, x + w * (fx - x))


def engaged_blend(x: Floats, fx: Floats, depth: Floats) -> Floats:
    """Output of a ``blend``: (1 − depth)·x + depth·f(x)."""
    if least(depth) >= 1.0:
        return fx
    return np.where(depth >= 1.0, fx, (1.0 - depth) * x + depth * fx)


__all__ = [
    "Effect",
    "Engagement",
    "Group",
    "Parameter",
    "Processor",
    "Reference",
    "Settings",
    "State",
    "engaged_blend",
    "engaged_sweep",
    "reached",
    "swept",
]
