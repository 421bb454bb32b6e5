"""Levels set in one step, worked out on the reel as it is."""

from __future__ import annotations

from uuid import UUID

from bathyphon.core.errors import Refused
from bathyphon.core.listen import levelling
from bathyphon.core.listen.finding import Cure
from bathyphon.server.listening.judging import survey_for
from bathyphon.server.reels.head import Head
from bathyphon.server.sound.media import PreparedMedia

PEAK_DBTP, DIP_DB, LOUDNESS_LUFS = -1.0, 8.0, -23.0


def step_of(
    reel: UUID,
    head: Head,
    media: PreparedMedia,
    step: str,
    of: list[str],
    other: str | None,
    value: float | None,
) -> Cure:
    """The edit that sets a level.

    Parameters
    ----------
    reel : UUID
    head : Head
    media : PreparedMedia
    step : str
        A function of :mod:`bathyphon.core.listen.levelling`.
    of : list of str
        ``clip:c1``, ``track:t1``, ``treatment:f1`` or ``mix``.
    other : str or None
        What is matched.
    value : float or None
        The loudness, the peak or the depth that is asked for.

    Raises
    ------
    Refused
        In one sentence, if it cannot be set.
    """
    survey = survey_for(reel, head, media, lambda: True)
    first = of[0]
    id = first.partition(":")[2]
    if step == "match_untreated":
        return levelling.match_untreated(survey, first)
    if step == "match_part":
        if other is None:
            raise Refused("say which clip or track is to be matched", "other")
        return levelling.match_part(survey, first, other)
    if step == "match_neighbour":
        return levelling.match_neighbour(survey, id)
    if step == "to_loudness":
        return levelling.to_loudness(survey, first, LOUDNESS_LUFS if value is None else value)
    if step == "normalise":
        return levelling.normalise(survey, first, PEAK_DBTP if value is None else value)
    if step == "set_alike":
        return levelling.set_alike(survey, of)
    if step == "dip_under_speech":
        return levelling.dip_under_speech(survey, id, DIP_DB if value is None else value)
    return levelling.even_out(survey, id, only_up=step == "raise_quiet")
