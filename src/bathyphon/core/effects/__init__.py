"""Effects: one folder each, found by itself and named in :data:`EFFECTS`.

``table.py`` says what can be set, ``sound.py`` computes, ``reach.py`` says how long it sounds on,
``drawing.py`` draws, ``presets.py`` are starting points, ``example.py`` lets all of it run. How to
write one: ``docs/write-an-effect.md``.
"""

from __future__ import annotations

from importlib import import_module
from pkgutil import iter_modules

from bathyphon.core.effects.kit.effect import Effect

SHARED = "kit"
"""The folder that is no effect."""


def _found() -> dict[str, Effect]:
    effects = []
    for module in iter_modules(__path__):
        if module.ispkg and module.name != SHARED:
            package = f"{__name__}.{module.name}"
            effects.append(Effect(import_module(f"{package}.table").TABLE, package))
    return {e.id: e for e in sorted(effects, key=lambda e: (e.table.place, e.id))}


EFFECTS: dict[str, Effect] = _found()
"""Every effect by its id, in the order in which they are offered."""

__all__ = ["EFFECTS", "Effect"]
