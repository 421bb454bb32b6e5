"""Drawings of the effects of a reel, with the sound that they treat."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
from django.contrib.auth.models import User

from bathyphon.core.curves import Floats
from bathyphon.core.drawings import Drawing, draw
from bathyphon.core.edits.commands.chains import span_of
from bathyphon.core.edits.find import at, effect_path
from bathyphon.core.engine.chain import link_of
from bathyphon.core.reel import EffectPart, Reel
from bathyphon.server.reels.head import Head
from bathyphon.server.sound.media import PreparedMedia

# Around the moment that is drawn.
SOUND_SECONDS = 2.0


def drawing_of(
    account: User, head: Head, owner: str, effect: str, place: int, params: dict[str, Any]
) -> Drawing | None:
    """Draw an effect.

    Parameters
    ----------
    account : User
        Whose media may be used.
    head : Head
    owner, effect : str
        The chain's name as in commands, and the effect's id.
    place : int
        Sample from the owner's start.
    params : dict
        Parameters to draw instead of the document's.
    """
    document = head.document
    found = at(document, effect_path(document, owner, effect))
    start, end = span_of(document, owner)
    given = {**found.get("params", {}), **params}
    part = EffectPart(
        id=effect, kind=found["kind"], params={k: v for k, v in given.items() if v is not None}
    )
    reel = head.reel
    media = PreparedMedia(account, reel)
    link = link_of(part, max(1, end - start), reel.sample_rate, media)
    place = min(max(place, 0), max(0, end - start - 1))
    sound = _sound(reel, media, owner, start + place)
    settings = replace(link.settings, length=max(1, end - start))
    return draw(link.effect, settings, place, sound)


def _sound(reel: Reel, media: PreparedMedia, owner: str, place: int) -> Floats:
    """What the clips of the owner's track play around a sample of the reel, without treatments."""
    half = round(SOUND_SECONDS * reel.sample_rate / 2.0)
    first = max(0, place - half)
    out = np.zeros((2, 2 * half))
    kind, _, id = owner.partition(":")
    for track in reel.tracks:
        clips = [c for c in track.clips if kind != "clip" or c.id == id]
        mine = owner == "mix" or track.id == id or any(t.id == id for t in track.treatments)
        if kind != "clip" and not mine:
            continue
        for clip in clips:
            a, b = max(first, clip.start), min(first + 2 * half, clip.end)
            if clip.enabled and a < b:
                begin = clip.source_start + a - clip.start
                out[:, a - first : b - first] += media.read(clip.media, begin, begin + b - a)
    return out
