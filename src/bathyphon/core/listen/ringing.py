"""What still rings on at a moment at which something ends: a picture, or what is exported."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.engine.nodes import TreatedNode
from bathyphon.core.listen.survey import Owner, Survey

HEARD_DBFS = -50.0
"""A tail below this is covered by nearly anything (common practice)."""
STEP_SECONDS = 0.05


@dataclass(frozen=True)
class Ringing:
    """A tail that is cut by an end.

    Parameters
    ----------
    owner : Owner
    level : float
        At the end, in dBFS, without what plays under it.
    ends : int
        Sample at which it would have faded away.
    """

    owner: Owner
    level: float
    ends: int


def ringing_at(survey: Survey, sample: int, heard: float = HEARD_DBFS) -> list[Ringing]:
    """Tails of treatments that have ended before a sample, and are heard beyond it.

    Parameters
    ----------
    survey : Survey
    sample : int
    heard : float
        dBFS below which they do not count.
    """
    step = round(STEP_SECONDS * survey.rate)
    found = []
    for owner in survey.owners():
        node = owner.node
        if node is None or not owner.stop < sample < node.stop:
            continue
        level = tail_level(survey, node, sample, step)
        if level > heard:
            found.append(Ringing(owner, level, node.stop))
    return found


def tail_level(survey: Survey, node: TreatedNode, at: int, samples: int) -> float:
    """Level in dBFS of what rings on, without what still plays under it."""
    stop = at + samples
    return level_of(survey.sound(at, stop, node) - survey.sound(at, stop, node.source))


def level_of(sound: Floats) -> float:
    """Mean level in dBFS, −120 for silence."""
    return float(10.0 * np.log10(np.mean(sound * sound) + 1e-12)) if sound.size else -120.0
