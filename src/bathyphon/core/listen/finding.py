"""What a finding is, and the thresholds that decide about it."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from hashlib import blake2b
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from bathyphon.core.listen.survey import Survey

Command = dict[str, Any]


@dataclass(frozen=True)
class Cure:
    """One undoable edit that mends it.

    Parameters
    ----------
    label : str
        What the button says.
    commands : tuple of dict
        Edits of :mod:`bathyphon.core.edits`, applied as one.
    """

    label: str
    commands: tuple[Command, ...]


@dataclass(frozen=True)
class Finding:
    """Something that sounds wrong.

    Parameters
    ----------
    kind : str
        Which check has found it, such as ``click``.
    start, stop : int
        Where, in samples of the reel.
    title : str
        What it is, in a few words.
    why : str
        What was measured, and why it is heard.
    sure : float
        0 to 1.
    of : str
        The part it belongs to: ``clip:c1``, ``treatment:f1``, ``track:t1``, ``mix`` or ``reel``.
    track : str or None
        Id of the track it is on.
    cure : Cure or None
        None where only an ear or another recording can help.
    """

    kind: str
    start: int
    stop: int
    title: str
    why: str
    sure: float
    of: str
    track: str | None = None
    cure: Cure | None = None
    instead: Cure | None = None
    """Another way to mend it."""

    @property
    def id(self) -> str:
        """A name that stays while it is found at the same part, wherever that is moved."""
        return blake2b(f"{self.kind}|{self.of}|{self.part}".encode(), digest_size=6).hexdigest()

    part: str = ""
    """Tells several of one kind at one part apart: an edge, a second, a medium."""


@dataclass(frozen=True)
class Threshold:
    """A number that a check goes by.

    Parameters
    ----------
    id, label, unit : str
    value : float or None
        As it is until it is set otherwise; None where nothing is asked for.
    least, most : float
        Between which it may be set.
    help : str
        What it decides.
    source : str
        Where the value comes from.
    """

    id: str
    label: str
    unit: str
    value: float | None
    least: float
    most: float
    help: str
    source: str


@dataclass(frozen=True)
class Check:
    """One kind of finding; each module of :mod:`bathyphon.core.listen.findings` has one as CHECK.

    Parameters
    ----------
    kind : str
    label : str
        What it looks for, as a heading.
    help : str
        What it is and what one does about it.
    find : callable
        From a survey to findings.
    thresholds : tuple of Threshold
    place : int
        Order in lists.
    """

    kind: str
    label: str
    help: str
    find: Callable[[Survey], Iterator[Finding]]
    thresholds: tuple[Threshold, ...] = field(default=())
    place: int = 0
