"""What a well-formed reel must also keep to: rules that types alone cannot say."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from bathyphon.core.errors import Refused
from bathyphon.core.reel.caps import check_caps, check_chain_caps
from bathyphon.core.reel.chains import chains, listened_to
from bathyphon.core.reel.limits import (
    FASTEST,
    LEVELS,
    SLOWEST,
    WIDEST_CENTS,
    WIDEST_FORMANTS,
    WIDEST_ST,
)
from bathyphon.core.reel.model import Chain, Keyframes, Ramp, Reel, Speed, Treatment
from bathyphon.core.reel.values import check_movable, effect_curves


def check_reel(reel: Reel, before: Reel | None = None) -> None:
    """Refuse a reel that breaks a rule.

    Parameters
    ----------
    reel : Reel
    before : Reel, optional
        One that has been checked; what both share is not checked again.

    Raises
    ------
    Refused
        With the path of the fault.
    """
    check_caps(reel)
    clock = _located("frame_rate", lambda: reel.clock)
    _located("start_timecode", lambda: clock.frame_of_timecode(reel.start_timecode))
    media = _distinct(((f"media.{i}.id", m.id) for i, m in enumerate(reel.media)))
    for i, medium in enumerate(reel.media):
        if medium.beats.factor not in (0.25, 0.5, 1, 2, 4):
            raise Refused("expected 0.25, 0.5, 1, 2 or 4", f"media.{i}.beats.factor")
    _distinct((f"markers.{i}.id", m.id) for i, m in enumerate(reel.markers))
    _distinct((f"poses.{i}.id", p.id) for i, p in enumerate(reel.poses))
    _distinct((f"tracks.{i}.id", t.id) for i, t in enumerate(reel.tracks))
    _distinct(
        (f"tracks.{t}.clips.{c}.id", clip.id)
        for t, track in enumerate(reel.tracks)
        for c, clip in enumerate(track.clips)
    )
    _distinct(
        (f"tracks.{t}.treatments.{f}.id", treatment.id)
        for t, track in enumerate(reel.tracks)
        for f, treatment in enumerate(track.treatments)
    )
    _check_picture(reel, media)
    same = _checked(before, media) if before else set()
    for t, track in enumerate(reel.tracks):
        where = f"tracks.{t}"
        if id(track) in same:
            continue
        check_movable(track.gain_db, LEVELS, f"{where}.gain_db")
        check_movable(track.pan, (-100.0, 100.0), f"{where}.pan")
        for c, clip in enumerate(track.clips):
            at = f"{where}.clips.{c}"
            if id(clip) in same:
                continue
            if clip.media not in media:
                raise Refused(f"there is no medium “{clip.media}” in media", f"{at}.media")
            check_movable(clip.gain_db, LEVELS, f"{at}.gain_db")
            _check_ramps(clip.fade_in, clip.fade_out, clip.length, at, "fade")
            _check_speed(clip.speed, f"{at}.speed")
    check_movable(reel.mix.gain_db, LEVELS, "mix.gain_db")
    for where, chain in chains(reel):
        if id(chain) not in same:
            check_chain(chain, where)
    _check_listening(reel)


def _check_speed(speed: Speed, where: str) -> None:
    # What stands still for ever would never end; what comes to a stop may.
    slowest = 0.0 if isinstance(speed.percent, Keyframes) else SLOWEST
    check_movable(speed.percent, (slowest, FASTEST), f"{where}.percent")
    check_movable(speed.semitones, (-WIDEST_ST, WIDEST_ST), f"{where}.semitones")
    check_movable(
        speed.formant_shift, (-WIDEST_FORMANTS, WIDEST_FORMANTS), f"{where}.formant_shift"
    )
    check_movable(speed.cents, (-WIDEST_CENTS, WIDEST_CENTS), f"{where}.cents")


def _checked(reel: Reel, media: set[str]) -> set[int]:
    """Identities of the tracks, clips and chains of a reel that has been checked.

    What is known to be right stays right while the media that it may name are still there.
    """
    if not {m.id for m in reel.media} <= media:
        return set()
    parts: set[int] = {id(chain) for _, chain in chains(reel)}
    for track in reel.tracks:
        parts.add(id(track))
        parts |= {id(clip) for clip in track.clips}
    return parts


def _check_listening(reel: Reel) -> None:
    """Refuse tracks that listen to themselves, be it by way of others."""
    heard = {track.id: listened_to(track) for track in reel.tracks}
    for t, track in enumerate(reel.tracks):
        reached: set[str] = set()
        ahead = list(heard[track.id])
        while ahead:
            id = ahead.pop()
            if id == track.id:
                raise Refused(
                    "a track cannot listen to itself, nor to one that listens to it", f"tracks.{t}"
                )
            if id not in reached:
                reached.add(id)
                ahead += heard.get(id, ())


def check_chain(chain: Chain, where: str) -> None:
    """Refuse a chain whose effects, parameters, strength or ramps are out of bounds."""
    check_chain_caps(chain, where)
    check_movable(chain.strength, (0.0, 100.0), f"{where}.strength")
    if isinstance(chain, Treatment):
        _check_ramps(chain.ramp_in, chain.ramp_out, chain.length, where, "ramp")
    _distinct((f"{where}.effects.{i}.id", e.id) for i, e in enumerate(chain.effects))
    for i, effect in enumerate(chain.effects):
        effect_curves(effect, f"{where}.effects.{i}")


def _check_ramps(head: Ramp, foot: Ramp, length: int, where: str, word: str) -> None:
    if head.length + foot.length > length:
        raise Refused(
            f"{word}_in and {word}_out take {head.length + foot.length} samples together, "
            f"more than the length of {length}",
            where,
        )


def _check_picture(reel: Reel, media: set[str]) -> None:
    end = 0
    for i, clip in enumerate(reel.picture.clips):
        if clip.media not in media:
            raise Refused(f"there is no medium “{clip.media}” in media", f"picture.clips.{i}.media")
        if clip.start < end:
            raise Refused("picture clips must not overlap", f"picture.clips.{i}.start")
        end = clip.start + clip.length
    for i, (a, b) in enumerate(zip(reel.picture.cuts, reel.picture.cuts[1:], strict=False)):
        if b <= a:
            raise Refused("cuts must come in rising order", f"picture.cuts.{i + 1}")


def _distinct(places: Iterable[tuple[str, str]]) -> set[str]:
    seen: set[str] = set()
    for where, id in places:
        if id in seen:
            raise Refused(f"the id “{id}” is used twice", where)
        seen.add(id)
    return seen


def _located(where: str, work: Any) -> Any:
    try:
        return work()
    except Refused as error:
        raise Refused(error.message, where) from None
