"""Recipes: known jobs in one step, one folder each, found by itself.

``table.py`` says what is asked, ``build.py`` makes of the answers ordinary edits: clips,
treatments, effects and keyframes that stay open to change. To write one, copy any folder.
"""

from __future__ import annotations

from functools import partial
from importlib import import_module
from pkgutil import iter_modules
from typing import TYPE_CHECKING

from bathyphon.core.recipes.kit.recipe import Answers, Recipe

if TYPE_CHECKING:
    from bathyphon.core.recipes.kit.plan import Plan
    from bathyphon.core.recipes.kit.scene import Scene

SHARED = ("kit", "own")
"""The folders that are no recipes."""


def _found() -> dict[str, Recipe]:
    recipes = []
    for module in iter_modules(__path__):
        if module.ispkg and module.name not in SHARED:
            package = f"{__name__}.{module.name}"
            table = import_module(f"{package}.table").TABLE
            recipes.append(Recipe(table, partial(_build, package)))
    return {r.id: r for r in sorted(recipes, key=lambda r: (r.table.place, r.id))}


def _build(package: str, scene: Scene, answers: Answers, plan: Plan) -> None:
    """Build the recipe of a folder, which is imported when it is first used."""
    import_module(f"{package}.build").build(scene, answers, plan)


RECIPES: dict[str, Recipe] = _found()
"""Every recipe by its id, in the order in which they are offered."""

__all__ = ["RECIPES", "Recipe"]
