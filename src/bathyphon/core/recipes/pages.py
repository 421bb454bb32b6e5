"""All recipes on a page: ``python -m bathyphon.core.recipes.pages > docs/recipes.md``."""

from __future__ import annotations

from collections.abc import Iterable

from bathyphon.core.recipes.kit.recipe import Recipe

HEAD = """# Recipes

Known jobs in one step. Each asks a few things, can be tried where the playhead is before
anything is made, and makes ordinary clips, treatments, effects and keyframes in one step of the
history. As long as nothing of it is changed by hand its answers can be changed. They lie under
*Media & sounds*, *Recipes*. Made by `python -m bathyphon.core.recipes.pages`.
"""
WHERE = {
    "clip": "the selected clip, else the one under the playhead",
    "two clips": "the selected clip and another one, which is selected after it",
    "stretch": "the selected range or treatment, else the shot",
    "markers": "the selected clip, else the one under the playhead, at its markers",
}


def page(recipes: Iterable[Recipe]) -> str:
    """The page as Markdown."""
    return "\n".join([HEAD, *(_section(recipe) for recipe in recipes)])


def _section(recipe: Recipe) -> str:
    table = recipe.table
    lines = [f"## {table.label}", "", table.help, "", f"Works on {WHERE[table.needs]}.", ""]
    for row in table.questions:
        if row.choices:
            span = ", ".join(row.choices)
        else:
            span = f"{row.low:g} to {row.high:g} {row.unit}, comes as {row.default:g}"
        lines.append(f"* **{row.label}** ({span.replace('-', '−')}): {row.help}")
    return "\n".join([*lines, ""])


if __name__ == "__main__":
    from bathyphon.core.recipes import RECIPES

    print(page(RECIPES.values()), end="")
