"""How a tail decays: octave by octave, with the times that it takes."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.analysis.spot import spot_of
from bathyphon.core.arrays import Floats
from bathyphon.core.errors import Refused
from bathyphon.core.listen.survey import Survey
from bathyphon.core.measure.decay import BandDecay, decay_times

LONGEST_SECONDS = 60
SHORTEST_SECONDS = 0.05


def tail_of(
    survey: Survey, of: str, start: int | None = None, stop: int | None = None
) -> tuple[int, list[BandDecay]]:
    """Decay of what rings on past a clip or a treatment, or of a stretch that dies away.

    Parameters
    ----------
    survey : Survey
    of : str
        See :func:`~bathyphon.core.analysis.spot.spot_of`.
    start, stop : int, optional
        Samples of the reel. If they are not given, the tail of a clip or a treatment is taken: what
        is heard after its end that would not be there without it.

    Returns
    -------
    start : int
        Sample of the reel at which what was measured begins.
    bands : list of BandDecay

    Raises
    ------
    Refused
        If there is nothing that could decay.
    """
    after = spot_of(survey, of)
    longest = LONGEST_SECONDS * survey.rate
    if start is not None and stop is not None:
        first, last = start, min(stop, start + longest, survey.length)
        sound = after.sound(first, max(first, last))
    else:
        first, last = after.stop, min(after.ends, after.stop + longest)
        if last - first < SHORTEST_SECONDS * survey.rate:
            raise Refused("there is no tail here: select a range over a sound that dies away", "of")
        before = spot_of(survey, of, "before")
        sound = after.sound(first, last) - before.sound(first, last)
    if sound.shape[1] < SHORTEST_SECONDS * survey.rate:
        raise Refused("too short to tell how it decays: select a longer range", "start")
    return first, decay_times(sound, survey.rate)


def thinned(band: BandDecay, most: int) -> tuple[NDArray[np.int64], Floats]:
    """A decay's curve as samples and dB, few enough to be drawn, down to −80 dB."""
    curve: Floats = band.curve[band.curve > -80.0]
    if not curve.size:
        return np.zeros(0, np.int64), curve
    places = np.unique(np.linspace(0, curve.size - 1, most).astype(np.int64))
    return band.begins + places, curve[places]
