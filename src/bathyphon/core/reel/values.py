"""From a value of the document to a curve, checked on its way."""

from __future__ import annotations

import weakref
from typing import Any

from pydantic import ValidationError

from bathyphon.core.effects import EFFECTS
from bathyphon.core.effects.kit.effect import Effect
from bathyphon.core.effects.kit.table import Group, Parameter
from bathyphon.core.errors import Refused
from bathyphon.core.reel.caps import check_keyframe_cap
from bathyphon.core.reel.model import EffectPart, Keyframes
from bathyphon.core.timing.curves import Curve, Keyframe
from bathyphon.core.timing.shapes import Scale


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
    """The curve of a number or of keyframes.

    Examples
    --------
    >>> movable_curve(3.0).moves
    False
    """
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
    check_keyframe_cap(value.keyframes, where)
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
