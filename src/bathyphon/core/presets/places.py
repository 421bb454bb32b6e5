"""Keyframes of a preset: at shares of their owner's length, so that they fit any other length."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from bathyphon.core.errors import Refused

DIGITS = 9
OWN = ("pose", "stamp")
"""What belongs to a keyframe's own reel alone, and does not come along."""
Key = dict[str, Any]


def as_shares(value: Any, length: int) -> Any:
    """A value of a document with its keyframes at shares of a length."""
    return _moved(value, lambda key: ("share", round(key["at"] / length, DIGITS)))


def as_samples(value: Any, length: int) -> Any:
    """The same back again, at another length; of what falls together the first is kept."""
    return _moved(value, lambda key: ("at", round(key["share"] * length)))


def check_shares(value: Any, where: str) -> None:
    """Refuse keyframes that say no share, or that are not in order.

    Raises
    ------
    Refused
        With the place of the first.
    """
    if isinstance(value, list):
        for index, one in enumerate(value):
            check_shares(one, f"{where}.{index}")
    if not isinstance(value, dict):
        return
    for name, one in value.items():
        if name == "keyframes":
            _check_keys(one, f"{where}.keyframes")
        else:
            check_shares(one, f"{where}.{name}")


def _check_keys(keys: Any, where: str) -> None:
    if not isinstance(keys, list) or not keys:
        raise Refused("keyframes must be a list that holds some", where)
    for index, key in enumerate(keys):
        share = key.get("share") if isinstance(key, dict) else None
        if isinstance(share, bool) or not isinstance(share, (int, float)) or abs(share) > 1e6:
            raise Refused("a keyframe of a preset needs a share of its length", f"{where}.{index}")


def _moved(value: Any, place: Callable[[Key], tuple[str, float]]) -> Any:
    if isinstance(value, list):
        return [_moved(one, place) for one in value]
    if not isinstance(value, dict):
        return value
    if "keyframes" not in value:
        return {key: _moved(one, place) for key, one in value.items()}
    keys: list[Key] = []
    for key in value["keyframes"]:
        name, there = place(key)
        rest = {k: v for k, v in key.items() if k not in ("at", "share", *OWN)}
        if not keys or there > keys[-1][name]:
            keys.append({name: there, **rest})
    return {**value, "keyframes": keys}
