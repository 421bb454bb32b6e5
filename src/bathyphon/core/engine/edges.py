"""Hard edges of what is sent into a room or an echo.

Everywhere else a step is a glide of 5 ms. Into a ``send`` that would swallow the attack of a hit
that is cut exactly where it begins. So where the sound itself begins at the edge there is no glide
at all, and elsewhere the shortest one that still makes no click.
"""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats

SHORT_GLIDE_SECONDS = 0.0005
"""Half a millisecond of ``smooth``: a sine that it cuts into leaves −72 dB above 8 kHz, which is
within the −70 dB that count as no click; a bare step leaves −29 dB."""
AROUND_SECONDS = 0.005
"""How far before and after an edge its sound is looked at."""
BEGINS_DB = 42.0
"""By how much a sound must rise at the edge to begin there: what is cut off before it is then
so weak that a bare step in it stays within those −70 dB."""


def short_glide(sample_rate: int) -> int:
    """Samples of the glide at a hard edge into a ``send``."""
    return max(1, round(SHORT_GLIDE_SECONDS * sample_rate))


def around(sample_rate: int) -> int:
    """Samples before and after an edge that tell whether a sound begins there."""
    return max(1, round(AROUND_SECONDS * sample_rate))


def begins(before: Floats, after: Floats) -> bool:
    """Whether a sound begins where one stretch of it ends and the next one starts.

    Parameters
    ----------
    before, after : ndarray, shape (2, n)
        Samples on both sides of the edge; ``before`` may be empty.
    """
    loud_before = float(np.square(before).mean()) if before.size else 0.0
    loud_after = float(np.square(after).mean()) if after.size else 0.0
    return bool(loud_before <= loud_after * 10.0 ** (-BEGINS_DB / 10.0))
