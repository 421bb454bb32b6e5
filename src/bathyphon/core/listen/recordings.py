"""What is measured of the recordings that clips play: the stretch they play, second by second."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.listen.survey import Survey
from bathyphon.core.reel.model import Clip

LONGEST_SECONDS = 60
"""Of a longer stretch so many seconds are looked at, spread over it."""


def heard_of(survey: Survey, clip: Clip) -> Iterator[Floats]:
    """The clip's own sound, before its gain, in pieces of up to a second."""
    rate = survey.rate
    # A clip at another speed plays more or less of its medium: what it begins with is enough.
    pieces = range(0, clip.length, rate)
    step = max(1, -(-len(pieces) // LONGEST_SECONDS))
    length = survey.media.length(clip.media)
    for at in pieces[::step]:
        start = max(0, clip.source_start + at)
        stop = min(length, clip.source_start + min(at + rate, clip.length))
        if start < stop:
            yield survey.media.read(clip.media, start, stop).astype(np.float64)
