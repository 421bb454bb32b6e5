"""Starting points for effects, by name."""

from __future__ import annotations

import copy
from typing import Any

from bathyphon.core.errors import Refused
from bathyphon.core.presets.table import PRESETS, Preset


def presets_of(kind: str) -> tuple[Preset, ...]:
    """The presets of an effect, in the order in which they are offered."""
    return PRESETS.get(kind, ())


def preset_params(kind: str, name: str, length: int) -> dict[str, Any]:
    """Parameters of a preset for an owner of so many samples.

    Keyframes of a preset lie at shares of its owner's length; here they become samples.

    Raises
    ------
    Refused
        If the effect has no preset of that name.
    """
    found = next((p for p in presets_of(kind) if p.name == name), None)
    if found is None:
        known = ", ".join(p.name for p in presets_of(kind)) or "none"
        raise Refused(f"{kind} has no preset “{name}”; it has {known}", "preset")
    params: dict[str, Any] = copy.deepcopy(dict(found.params))
    for value in params.values():
        if isinstance(value, dict):
            last = -1
            for frame in value["keyframes"]:
                last = max(last + 1, round(frame.pop("share") * length))
                frame["at"] = last
    return params


__all__ = ["Preset", "preset_params", "presets_of"]
