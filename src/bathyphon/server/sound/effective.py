"""What a lane's value is, as far as its treatment is engaged."""

from __future__ import annotations

import numpy as np
from django.contrib.auth.models import User

from bathyphon.core.edits.commands.chains import span_of
from bathyphon.core.edits.commands.lanes import lane_of
from bathyphon.core.edits.find import at, chain_path
from bathyphon.core.engine.effective import effective_strength, effective_values
from bathyphon.core.engine.plan import plan_of
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Chain, Treatment
from bathyphon.server.reels.head import Head
from bathyphon.server.sound.media import PreparedMedia


def effective_of(
    account: User, head: Head, name: str, start: int, end: int, places: int
) -> list[float] | None:
    """Values at even places over a stretch.

    Parameters
    ----------
    account : User
        Whose media may be used.
    head : Head
    name : str
        The lane's name as in commands.
    start, end : int
        Samples of the reel.
    places : int

    Returns
    -------
    list of float, or None
        ``None`` where what applies is what the lane itself shows.
    """
    if end <= start:
        raise Refused("the stretch must end after it starts", "end")
    lane = lane_of(head.document, name)
    owner, *value = name.split("/")
    if len(value) == 1 and value[0] != "strength":
        return None
    path = chain_path(head.document, owner)
    try:
        found = at(head.document, path)
    except KeyError:
        return None
    kind = Treatment if owner.startswith("treatment:") else Chain
    first, last = span_of(head.document, owner)
    media = PreparedMedia(account, head.reel)
    chain = kind.model_validate(found)
    plan = plan_of(chain, max(1, last - first), head.reel.sample_rate, media, float(head.reel.rate))
    if plan is None:
        return None
    # Before a treatment begins and after it has ended, nothing applies.
    where = np.clip(np.linspace(start, end, places).astype(np.int64), first, last - 1) - lane.origin
    if len(value) == 1:
        return [float(v) for v in effective_strength(plan, where)]
    out = effective_values(plan, value[0], value[1], where)
    return None if out is None else [float(v) for v in out]
