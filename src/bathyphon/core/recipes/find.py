"""Finding recipes by the words that editors have for the job."""

from __future__ import annotations

from bathyphon.core.recipes import RECIPES, Recipe
from bathyphon.core.typed.words import (
    HELP,
    NAME,
    NAME_BEGUN,
    VALUE,
    WORD,
    WORD_BEGUN,
    Field,
    asked_words,
    fitness,
    words_of,
)


def _fields(recipe: Recipe) -> tuple[Field, ...]:
    table = recipe.table
    choices = [name for row in table.questions for name in row.choices]
    return (
        (NAME, NAME_BEGUN, words_of([table.label, table.id])),
        (WORD, WORD_BEGUN, words_of([table.words])),
        (WORD, WORD_BEGUN, words_of(choices)),
        (HELP, HELP, words_of([table.help])),
        (VALUE, VALUE, words_of([row.label for row in table.questions])),
    )


_FIELDS = {recipe.id: _fields(recipe) for recipe in RECIPES.values()}


def find_recipes(text: str) -> list[Recipe]:
    """Recipes that words may mean, the best first; without words all of them, in their order.

    Examples
    --------
    >>> find_recipes("phone call")[0].id
    'voice_from'
    """
    words = asked_words(text)
    if not words:
        return list(RECIPES.values())
    found = [(fitness(words, r.table.label.lower(), _FIELDS[r.id]), r) for r in RECIPES.values()]
    return [r for score, r in sorted(found, key=lambda hit: -hit[0]) if score > 0]
