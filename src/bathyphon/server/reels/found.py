"""What has been found in a reel's media, as it falls in the reel."""

from __future__ import annotations

from typing import Any

import numpy as np
from django.contrib.auth.models import User

from bathyphon.core.measure.found import Cut, Stretch
from bathyphon.core.reel.found import beats_in_reel, cuts_in_reel, places_in_reel
from bathyphon.core.reel.model import Reel
from bathyphon.core.timing.clock import Clock, parse_rate
from bathyphon.formats.names import sound_name
from bathyphon.server.media.models import Media, known_ids

MOST_ONSETS = 20_000


def found_in(account: User, reel: Reel) -> dict[str, Any]:
    """Cuts in frames, beats and onsets by clip in samples, tempo by medium."""
    rows = _rows(account, reel)
    pictures: dict[str, tuple[Clock, list[Cut]]] = {}
    for id, row in rows.items():
        picture = row.info.get("picture")
        if picture:
            clock = Clock(parse_rate(picture["rate"]), reel.sample_rate)
            pictures[id] = (clock, [Cut(**cut) for cut in picture.get("cuts", [])])
    cuts = cuts_in_reel(reel, pictures)
    return {
        "cuts": [{"frame": c.frame, "length": c.length, "kind": c.kind} for c in cuts],
        "beats": _beats(reel, rows),
        "onsets": _onsets(reel, rows),
    }


def beats_by_clip(account: User, reel: Reel) -> dict[str, list[int]]:
    """Beats in samples of the reel, by clip."""
    return _beats(reel, _rows(account, reel))


def _rows(account: User, reel: Reel) -> dict[str, Media]:
    ids = known_ids(m.id for m in reel.media)
    return {ids[row.pk]: row for row in Media.visible_to(account).filter(pk__in=ids)}


def _beats(reel: Reel, rows: dict[str, Media]) -> dict[str, list[int]]:
    grids: dict[str, tuple[Stretch, ...]] = {}
    for id, row in rows.items():
        sound = row.info.get("sound", {})
        if sound.get("stretches"):
            stretches = (Stretch(**s) for s in sound["stretches"])
            grids[id] = tuple(s.at_rate(row.rate, reel.sample_rate) for s in stretches)
    return beats_in_reel(reel, grids)


def _onsets(reel: Reel, rows: dict[str, Media]) -> dict[str, list[int]]:
    out: dict[str, list[int]] = {}
    for clip in (c for track in reel.tracks for c in track.clips if c.enabled):
        row = rows.get(clip.media)
        if row is None or not row.info.get("sound", {}).get("onsets"):
            continue
        path = row.blob.prepared / f"onsets-{sound_name(row.rate, row.stream)}.i32"
        if path.is_file():
            onsets = np.fromfile(path, "<i4").astype(np.int64)
            # They were found at the medium's own rate.
            onsets = onsets * reel.sample_rate // row.rate
            inside = places_in_reel(clip, onsets, reel.sample_rate)
            out[clip.id] = [int(s) for s in inside[:MOST_ONSETS]]
    return out
