"""Starting points of an effect, by name."""

from __future__ import annotations

import copy
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from bathyphon.core.errors import Refused


@dataclass(frozen=True)
class Preset:
    """One starting point: its name, what it is for, the parameters that it sets, search words."""

    name: str
    help: str
    params: Mapping[str, Any]
    words: str = ""


def moving(*points: tuple[float, float], ease: str = "smooth") -> dict[str, Any]:
    """A value of a preset that moves.

    Parameters
    ----------
    points : (float, float)
        Share of the owner's length, 0 to 1, and value.
    ease : str
        How each goes on to the next.
    """
    return {"keyframes": [{"share": s, "value": v, "ease": ease} for s, v in points]}


def placed(params: Mapping[str, Any], length: int) -> dict[str, Any]:
    """Parameters of a preset for an owner of so many samples.

    Keyframes of a preset lie at shares of its owner's length; here they become samples.

    Examples
    --------
    >>> placed({'mix': moving((0, 10), (1, 90))}, 48000)['mix']['keyframes'][-1]['at']
    48000
    """
    found: dict[str, Any] = copy.deepcopy(dict(params))
    for value in found.values():
        if isinstance(value, dict):
            last = -1
            for frame in value["keyframes"]:
                last = max(last + 1, round(frame.pop("share") * length))
                frame["at"] = last
    return found


def preset_params(kind: str, presets: Sequence[Preset], name: str, length: int) -> dict[str, Any]:
    """Parameters of the preset of that name, for an owner of so many samples.

    Raises
    ------
    Refused
        If the effect has no preset of that name.
    """
    preset = next((p for p in presets if p.name == name), None)
    if preset is None:
        known = ", ".join(p.name for p in presets) or "none"
        raise Refused(f"{kind} has no preset “{name}”; it has {known}", "preset")
    return placed(preset.params, length)
