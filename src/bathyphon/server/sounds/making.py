"""Computed sounds: as bytes to listen to, and as media of an account."""

from __future__ import annotations

import hashlib
import math
from collections.abc import Mapping
from functools import lru_cache
from uuid import UUID

import numpy as np
from django.contrib.auth.models import User

from bathyphon.core.errors import Refused
from bathyphon.core.sounds import MODELS
from bathyphon.core.sounds.kit.rate import RATE
from bathyphon.core.sounds.made import Made, make, sound_of
from bathyphon.formats.computed import ENDING, computed, written
from bathyphon.formats.plain_wave import wave_frames, wave_head
from bathyphon.server.media.intake import take
from bathyphon.server.media.models import Media
from bathyphon.server.media.storage import local_file

HEARD_S = 12.0
"""Of a bed so much is listened to; of a hit all, up to what one waits for."""
LONGEST_HIT_S = 20.0
KEPT = 8
LENGTHS_S = (60, 120, 300, 600, 1200, 1800, 3600, 5400, 7200, 10800, 14400, 21600, 28800)
"""Beds are as long as one of these: one that was made before is found again."""
SPARE_S = 10.0


def heard(model: str, settings: Mapping[str, float], seed: int, seconds: float) -> bytes:
    """The beginning of a sound as 16-bit WAV."""
    return _heard(model, tuple(sorted(settings.items())), seed, min(seconds, HEARD_S))


@lru_cache(KEPT)
def _heard(model: str, settings: tuple[tuple[str, float], ...], seed: int, seconds: float) -> bytes:
    made = make(model, dict(settings), seed, seconds)
    if made.seconds > LONGEST_HIT_S:
        made = made.model_copy(update={"seconds": LONGEST_HIT_S})
    sound = np.concatenate(list(sound_of(made)), axis=1)
    # A bed that is cut off in the middle would click.
    fade = min(sound.shape[1], RATE // 50)
    sound[:, -fade:] *= np.linspace(1, 0, fade, dtype=np.float32)
    sound[:, :fade] *= np.linspace(0, 1, fade, dtype=np.float32)
    data = wave_frames(sound)
    return wave_head(RATE, len(data)) + data


def bed_seconds(wanted: float) -> float:
    """How long a bed's medium is made so that it can be drawn out at both ends."""
    return float(next((s for s in LENGTHS_S if s >= wanted + SPARE_S), math.ceil(wanted)))


def medium_of(
    account: User,
    model: str,
    settings: Mapping[str, float],
    seed: int,
    seconds: float,
    name: str,
    rate: int,
) -> tuple[Media, int]:
    """An account's medium of a sound, which a job computes as it prepares any file.

    Returns
    -------
    medium
        The one that is there already, or a new one that waits to be prepared.
    samples
        How long it is at its rate.
    """
    known = MODELS.get(model)
    if known is None:
        raise Refused(f"there is no model “{model}”", "model")
    label = name or known.table.label
    return _medium(account, make(model, dict(settings), seed, bed_seconds(seconds), label), rate)


def longer_one(account: User, media: UUID, seconds: float) -> tuple[Media, int]:
    """Another medium of the same sound that lasts for so long; see :func:`medium_of`."""
    there = Media.visible_to(account).filter(pk=media).first()
    made = computed(local_file(there.blob)) if there else None
    if there is None or made is None:
        raise Refused("this medium is no computed sound", "media")
    if MODELS[made.model].kind == "hit":
        raise Refused("a hit lasts for as long as it sounds", "media")
    wanted = max(made.seconds, bed_seconds(seconds))
    return _medium(account, made.model_copy(update={"seconds": wanted}), there.rate)


def _medium(account: User, made: Made, rate: int) -> tuple[Media, int]:
    data = written(made)
    digest = hashlib.sha256(data).hexdigest()
    there = Media.visible_to(account).filter(blob_id=digest, rate=rate)
    known = there.exclude(state__in=(Media.FAILED, Media.CANCELLED)).order_by("-created")
    samples = -(-made.samples * rate // RATE)
    for medium in known:
        # A row whose files somebody has taken away is no use.
        if medium.state != Media.READY or medium.sound_path.is_file():
            return medium, samples
    return take(account, f"{made.name}{ENDING}", [data], rate), samples
