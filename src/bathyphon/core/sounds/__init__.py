"""Sounds that are computed: beds and hits, one folder a model, found by itself.

``table.py`` says what can be set and which sounds ship, ``sound.py`` computes them at 48 kHz from
a published model. A sound is its model, its settings and a seed: whoever has these three has it.
"""

from __future__ import annotations

from importlib import import_module
from pkgutil import iter_modules

from bathyphon.core.sounds.kit.model import Model

SHARED = "kit"
"""The folder that is no model."""


def _found() -> dict[str, Model]:
    models = []
    for module in iter_modules(__path__):
        if module.ispkg and module.name != SHARED:
            package = f"{__name__}.{module.name}"
            models.append(Model(import_module(f"{package}.table").TABLE, package))
    return {m.id: m for m in sorted(models, key=lambda m: (m.kind, m.table.family, m.id))}


MODELS: dict[str, Model] = _found()
"""Every model by its id."""

__all__ = ["MODELS", "Model"]
