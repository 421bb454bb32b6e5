"""What a well-formed reel must also keep to: rules that types alone cannot say."""

from __future__ import annotations

import weakref
from collections.abc import Iterable, Iterator
from typing import Any

from pydantic import ValidationError

from bathyphon.core.curves import Curve, Keyframe, Scale
from bathyphon.core.effects import EFFECTS
from bathyphon.core.effects.base import Effect, Group, Parameter, Settings
from bathyphon.core.errors import Refused
from bathyphon.core.reel import (
    Chain,
    EffectPart,
    Keyframes,
    Ramp,
    Reel,
    Speed,
    Track,
    Treatment,
    chains,
)

LEVELS = (-200.0, 24.0)
SLOWEST, FASTEST = 10.0, 400.0
"""Percent of a clip's speed while it does not move; where it moves it may come to a stop."""
WIDEST_ST = 24.0
"""Semitones up or down."""
WIDEST_CENTS = 100.0
WIDEST_FORMANTS = 12.0
"""Semitones."""
LOUDEST_DB = 24.0


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


def references(chain: Chain, to: str) -> Iterator[str]:
    """Ids of the tracks or media that the effects of a chain name."""
    for part in chain.effects:
        reference = effect_of(part).reference
        if reference and reference.to == to and part.params.get(reference.id):
            yield str(part.params[reference.id])


def used_media(reel: Reel) -> set[str]:
    """Ids of the media that are heard, and of those that effects work with."""
    clips = {clip.media for track in reel.tracks for clip in track.clips if clip.enabled}
    return clips | {id for _, chain in chains(reel) for id in references(chain, "media")}


def listened_to(track: Track) -> set[str]:
    """Ids of the tracks that a track listens to."""
    chains = (*(c.treatment for c in track.clips), *track.treatments, track.treatment)
    return {id for chain in chains for id in references(chain, "track")}


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
    check_movable(chain.strength, (0.0, 100.0), f"{where}.strength")
    if isinstance(chain, Treatment):
        _check_ramps(chain.ramp_in, chain.ramp_out, chain.length, where, "ramp")
    _distinct((f"{where}.effects.{i}.id", e.id) for i, e in enumerate(chain.effects))
    for i, effect in enumerate(chain.effects):
        effect_curves(effect, f"{where}.effects.{i}")


def effect_of(part: EffectPart, where: str = "") -> Effect:
    """The effect that a part of a document names."""
    effect = EFFECTS.get(part.kind)
    if effect is None:
        known = ", ".join(EFFECTS)
        raise Refused(f"there is no effect “{part.kind}”; there are {known}", f"{where}.kind")
    return effect


def effect_curves(part: EffectPart, where: str = "") -> dict[str, Curve]:
    """The parameters that a document gives an effect, as curves.

    Raises
    ------
    Refused
        If a parameter is unknown, out of range, of the wrong type or must not move.
    """
    key = id(part)
    kept = _curves.get(key)
    if kept is None:
        # They go with the part, before another can have its identity.
        gone = weakref.ref(part, lambda _: _curves.pop(key, None))
        kept = _curves[key] = (gone, _new_curves(part, where))
    return dict(kept[1])


_curves: dict[int, tuple[weakref.ref[EffectPart], dict[str, Curve]]] = {}
"""Curves of effects by the identity of their immutable parts: an edit leaves most as they are."""


def _new_curves(part: EffectPart, where: str) -> dict[str, Curve]:
    effect = effect_of(part, where)
    curves: dict[str, Curve] = {}
    for id, value in part.params.items():
        at = f"{where}.params.{id}"
        if effect.reference and id == effect.reference.id:
            if not isinstance(value, str):
                raise Refused(
                    f"expected the id of a {effect.reference.to}, not {value!r}"[:120], at
                )
        elif effect.group and id == effect.group.id:
            curves |= _group_curves(effect, effect.group, value, at)
        else:
            curves[id] = _parameter_curve(_known(effect, effect.parameters, id, at), value, at)
    return curves


def effect_settings(part: EffectPart, sample_rate: int) -> Settings:
    """All parameters of an effect, completed by its defaults."""
    effect = effect_of(part)
    refers = {}
    if effect.reference and part.params.get(effect.reference.id):
        refers[effect.reference.id] = str(part.params[effect.reference.id])
    return effect.settings(effect_curves(part), sample_rate, refers)


def _known(effect: Effect, rows: tuple[Parameter, ...], id: str, where: str) -> Parameter:
    found = next((p for p in rows if p.id == id), None)
    if found is None:
        known = [p.id for p in rows]
        if effect.reference and rows is effect.parameters:
            known.append(effect.reference.id)
        if effect.group and rows is effect.parameters:
            known.append(effect.group.id)
        raise Refused(f"{effect.id} has no parameter “{id}”; it has {', '.join(known)}", where)
    return found


def _group_curves(effect: Effect, group: Group, value: Any, where: str) -> dict[str, Curve]:
    if not isinstance(value, (list, tuple)) or len(value) > group.most:
        raise Refused(f"expected a list of at most {group.most}", where)
    curves: dict[str, Curve] = {}
    for i, entry in enumerate(value):
        at = f"{where}.{i}"
        if not isinstance(entry, dict):
            raise Refused("expected an object with the settings of one", at)
        for p in group.parameters:
            if p.default is not None:
                curves[f"{group.id}.{i}.{p.id}"] = Curve.constant(p.default, p.scale)
        for id, given in entry.items():
            row = _known(effect, group.parameters, id, f"{at}.{id}")
            curves[f"{group.id}.{i}.{id}"] = _parameter_curve(row, given, f"{at}.{id}")
    return curves


def movable_curve(value: float | Keyframes, scale: Scale = "linear") -> Curve:
    """The curve of a number or of keyframes."""
    if isinstance(value, Keyframes):
        return Curve(
            tuple(Keyframe(k.at, float(k.value), k.ease, k.bend, k.soft) for k in value.keyframes),
            scale,
            value.straight,
        )
    return Curve.constant(value, scale)


def check_movable(value: float | Keyframes, bounds: tuple[float, float], where: str) -> None:
    """Refuse a value or keyframes outside ``bounds`` or out of order."""
    low, high = bounds
    if not isinstance(value, Keyframes):
        _check_range(value, low, high, "", where)
        return
    last = None
    for i, k in enumerate(value.keyframes):
        at = f"{where}.keyframes.{i}"
        _check_range(k.value, low, high, "", f"{at}.value")
        if last is not None and k.at <= last:
            raise Refused("keyframes must come in rising order of time", f"{at}.at")
        last = k.at


def _parameter_curve(parameter: Parameter, value: Any, where: str) -> Curve:
    if isinstance(value, dict):
        if not parameter.movable:
            raise Refused(f"{parameter.label} cannot have keyframes", where)
        try:
            frames = Keyframes.model_validate(value)
        except ValidationError as error:
            place = ".".join(str(p) for p in error.errors()[0]["loc"])
            raise Refused(
                "expected {“keyframes”: [{“at”, “value”, “ease”} …]}", f"{where}.{place}"
            ) from None
        check_movable(frames, (parameter.low, parameter.high), where)
        return movable_curve(frames, parameter.scale)
    if parameter.choices:
        index = parameter.chosen(value)
        if index is None:
            known = ", ".join(f"“{c}”" for c in parameter.choices)
            raise Refused(f"expected one of {known}, not {value!r}"[:200], where)
        return Curve.constant(float(index))
    if isinstance(value, bool) or not isinstance(value, (int, float)):
        raise Refused(f"expected a number, not {value!r}"[:120], where)
    _check_range(float(value), parameter.low, parameter.high, parameter.unit, where)
    if parameter.whole and value != int(value):
        raise Refused(f"expected a whole number, not {value}", where)
    return Curve.constant(float(value), parameter.scale)


def _check_range(value: float, low: float, high: float, unit: str, where: str) -> None:
    if not low <= value <= high:
        span = f"{low:g} to {high:g}{' ' + unit if unit else ''}"
        raise Refused(f"{value:g} is outside {span}", where)


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
