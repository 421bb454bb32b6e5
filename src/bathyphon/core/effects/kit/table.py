"""An effect's table: what it is called and what can be set, as plain data."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

from bathyphon.core.errors import Refused
from bathyphon.core.timing.shapes import Scale

OUTPUT = "level_db"
Engagement = Literal["sweep", "send", "blend"]
PatternKind = Literal["lines", "waves", "dots", "rings", "steps", "crossed"]


@dataclass(frozen=True)
class CountsFor:
    """Which choices of another parameter give a parameter its meaning."""

    id: str
    choices: tuple[str, ...]


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
    counts_for : CountsFor, optional
        Where it means nothing for some choices of another parameter: those for which it does.
    strength : bool
        Whether it scales how far the effect is engaged, in percent, beside the treatment's own.
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
    strength: bool = False
    counts_for: CountsFor | None = None

    def chosen(self, value: object) -> int | None:
        """Index of a choice by its name, or by its number: −6 stands for “-6 dB”."""
        name = f"{value:g}" if isinstance(value, (int, float)) else str(value)
        for index, choice in enumerate(self.choices):
            if name in (choice, choice.split(" ")[0]):
                return index
        return None

    def read(self, value: object) -> float:
        """A value that is given for it, within its range; of a choice the index.

        Raises
        ------
        Refused
            In a sentence that says what would be right.
        """
        if self.choices:
            index = self.chosen(value) if isinstance(value, str) else value
            if isinstance(index, (int, float)) and 0 <= index <= len(self.choices) - 1:
                return float(round(index))
            raise Refused(f"{self.label} is one of {', '.join(self.choices)}", self.id)
        if isinstance(value, bool) or not isinstance(value, (int, float)):
            raise Refused(f"{self.label} must be a number", self.id)
        if not self.low <= value <= self.high:
            unit = f" {self.unit}" if self.unit else ""
            raise Refused(
                f"{self.label} must lie between {self.low:g} and {self.high:g}{unit}", self.id
            )
        return float(round(value) if self.whole else value)


def output_level(sweeps: bool = False) -> Parameter:
    """The last row of effects that change loudness by the way: their level as they come out."""
    return Parameter(
        OUTPUT, "Level", "dB", -24.0, 12.0, "db", default=0.0,
        neutral=0.0 if sweeps else None, help="How loud it comes out.",
    )  # fmt: skip


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
class Pattern:
    """How an effect's spans are hatched, so that each is told apart without colour.

    Parameters
    ----------
    kind : {"lines", "waves", "dots", "rings", "steps", "crossed"}
        What is drawn: by it effects are told apart first.
    angle : float
        Degrees, clockwise from level.
    spacing : float
        Pixels from one to the next.
    weight : float
        Thickness of a line, or size of a dot, in pixels.
    dash : tuple of float
        Lengths of strokes and gaps in pixels; empty for whole lines.
    """

    kind: PatternKind
    angle: float = 0.0
    spacing: float = 8.0
    weight: float = 1.5
    dash: tuple[float, ...] = ()


@dataclass(frozen=True)
class Table:
    """What the outside knows of an effect before any sound is computed.

    Parameters
    ----------
    id, label : str
        Name in documents and on screen; the folder is called like the id.
    place : int
        Where it stands in the list of effects; neighbours leave gaps of ten.
    engages : {"sweep", "send", "blend"}
        How a treatment's strength reaches it: every control glides from its neutral value, the
        sound is sent into it and rings on, or its output is mixed in.
    parameters : tuple of Parameter
        What can be set, the most telling first.
    telling : tuple of str
        Ids of the values printed on its drawing.
    hatch : Pattern
        How its spans are drawn.
    help : str
        What it is for, in one sentence.
    lookback_s : float
        Seconds of input from before its span that it is fed, so that its memories have settled.
    group : Group, optional
        Parameters that come several times.
    reference : Reference, optional
        What of the reel it can name.
    first : tuple of str
        Ids of the values that are seen before one asks for more; else the first three.
    added : dict
        Values that it is put into a chain with, where at its defaults it would change nothing.
    words : str
        What editors call it, or look for when they want it, with spaces between.
    for_level : bool
        Whether louder or quieter is what it is for; all others leave loudness about as it was.
    output : str
        Id of the parameter that the kit applies to what comes out, if it has one.
    """

    id: str
    label: str
    place: int
    engages: Engagement
    parameters: tuple[Parameter, ...]
    telling: tuple[str, ...]
    hatch: Pattern
    help: str = ""
    lookback_s: float = 0.0
    group: Group | None = None
    reference: Reference | None = None
    first: tuple[str, ...] = ()
    added: Mapping[str, float | str] = field(default_factory=dict, hash=False)
    words: str = ""
    for_level: bool = False
    output: str = ""

    def parameter(self, id: str) -> Parameter | None:
        """The row of that name; of an entry of the group, its parameter's row."""
        rows = self.parameters
        first, _, rest = id.partition(".")
        if self.group and rest and first == self.group.id:
            number, _, id = rest.partition(".")
            if not number.isdecimal() or int(number) >= self.group.most:
                return None
            rows = self.group.parameters
        return next((p for p in rows if p.id == id), None)

    @property
    def strength(self) -> str | None:
        """Id of the parameter that scales how far the effect is engaged, if it has one."""
        return next((p.id for p in self.parameters if p.strength), None)
