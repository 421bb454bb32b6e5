"""A run of poses as one types it: names of poses, or values of the lane in hand."""

from __future__ import annotations

import re
from dataclasses import dataclass, field

from bathyphon.core.edits.commands.lanes import Lane, Point
from bathyphon.core.errors import Refused
from bathyphon.core.typed.values import read_value

BETWEEN = re.compile("[,;]")


@dataclass
class Run:
    """Poses in order.

    Parameters
    ----------
    ids : list of str
    made : dict of str to (str, float)
        Of each that is not there yet, by its id: its name, which is what was typed, and its value.
    """

    ids: list[str] = field(default_factory=list)
    made: dict[str, tuple[str, float]] = field(default_factory=dict)


def read_run(text: str, poses: list[Point], lane: Lane, ids: str) -> Run:
    """Read a run such as “right, left, both”.

    Parameters
    ----------
    text : str
    poses : list of dict
        Those of the reel.
    lane : Lane
        What a word that names no pose is a value of.
    ids : str
        Begin of the ids of poses that are made.

    Raises
    ------
    Refused
        If a word is neither.
    """
    words = _words(text)
    if not words:
        raise Refused("type names or values, with commas between them", "text")
    # Poses of a reel that was made elsewhere may have no name.
    known = {pose.get("name", "").lower(): pose["id"] for pose in reversed(poses)}
    run = Run()
    for word in words:
        name = word.lower()
        if name not in known:
            known[name] = f"{ids}.pose{len(run.made)}"
            run.made[known[name]] = (word, _value(lane, word))
        run.ids.append(known[name])
    return run


def first_word(text: str) -> str:
    """What a run begins with."""
    return next(iter(_words(text)), "")


def _words(text: str) -> list[str]:
    return [word.strip() for word in BETWEEN.split(text) if word.strip()]


def _value(lane: Lane, word: str) -> float:
    try:
        return lane.fitted(read_value(lane, word))
    except Refused as refused:
        raise Refused(f"there is no pose “{word}”; else {refused.message}", "text") from None
