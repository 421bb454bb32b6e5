"""Drawings of the effects of a reel, with the sound that they treat."""

from __future__ import annotations

from typing import Any
from uuid import UUID

import numpy as np
from django.contrib.auth.models import User

from bathyphon.core.arrays import Floats
from bathyphon.core.edits.commands.chains import span_of
from bathyphon.core.edits.find import at, chain_path, effect_path
from bathyphon.core.effects.kit.drawing.model import Drawing
from bathyphon.core.effects.kit.drawing.view import draw
from bathyphon.core.effects.kit.drawing.waves import waves
from bathyphon.core.engine.plan import link_of
from bathyphon.core.reel.model import Document, EffectPart, Reel
from bathyphon.core.reel.places import ClipPlaces
from bathyphon.server.reels.derived import derived
from bathyphon.server.reels.head import Head
from bathyphon.server.sound.engine import Asked, engine_of
from bathyphon.server.sound.media import PreparedMedia

# Around the moment that is drawn.
SOUND_SECONDS = 2.0
# More than this is not drawn at once.
LONGEST_SECONDS = 60


def drawing_of(
    media: PreparedMedia,
    head: Head,
    owner: str,
    effect: str,
    place: int,
    params: dict[str, Any] | None = None,
) -> Drawing | None:
    """Draw an effect.

    Parameters
    ----------
    media : PreparedMedia
    head : Head
    owner, effect : str
        The chain's name as in commands, and the effect's id.
    place : int
        Sample of the reel.
    params : dict, optional
        Parameters to draw instead of the document's.
    """
    document = head.document
    found = at(document, effect_path(document, owner, effect))
    start, end = span_of(document, owner)
    given = {**found.get("params", {}), **(params or {})}
    part = EffectPart(
        id=effect, kind=found["kind"], params={k: v for k, v in given.items() if v is not None}
    )
    reel = head.reel
    link = link_of(part, max(1, end - start), reel.sample_rate, media, float(reel.rate))
    place = min(max(place, start), max(start, end - 1))
    heard = link.hears
    side = _sound(reel, media, f"track:{heard}", place) if heard else None
    sound = _sound(reel, media, owner, place)
    return draw(link.effect, link.settings, place - start, sound, side)


def wave_of(account: User, id: UUID, head: Head, owner: str) -> Drawing:
    """Levels around a chain's owner, with and without treatments, on its track or in the mix."""
    rate = head.reel.sample_rate
    start, end = span_of(head.document, owner)
    end = min(end, start + LONGEST_SECONDS * rate)
    tail = derived(account, head)["tails"].get(_path_of(head.document, owner), 0)
    tail = min(tail, LONGEST_SECONDS * rate)
    before = min(start, rate // 2)
    track = _track_of(head.reel, owner)
    engine = engine_of(id, rate)
    media = PreparedMedia(account, head.reel)
    treated, bare = (
        engine.stretch(Asked(head, media, side), track, start - before, end + tail)
        for side in ("treated", "untreated")
    )
    return waves(treated, bare, rate, before, tail)


def _path_of(document: Document, owner: str) -> str:
    return ".".join(map(str, chain_path(document, owner)))


def _track_of(reel: Reel, owner: str) -> str | None:
    """Id of the track that a chain is on; none for the mix."""
    kind, _, id = owner.partition(":")
    for track in reel.tracks:
        parts = track.clips if kind == "clip" else track.treatments
        if (kind == "track" and track.id == id) or (
            kind in ("clip", "treatment") and any(p.id == id for p in parts)
        ):
            return track.id
    return None


def _sound(reel: Reel, media: PreparedMedia, owner: str, place: int) -> Floats:
    """What the clips of the owner's track play around a sample of the reel, without treatments."""
    half = round(SOUND_SECONDS * reel.sample_rate / 2.0)
    first = place - half
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
                # What it sounds like hardly depends on its speed; where it lies does.
                places = ClipPlaces(clip, reel.sample_rate)
                begin = round(float(places.at(np.array([float(a - clip.start)]))[0]))
                out[:, a - first : b - first] += media.read(clip.media, begin, begin + b - a)
    return out
