"""An account's own recipes: kept as its presets are, and carried out as the others are."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction

from bathyphon.core.errors import Refused
from bathyphon.core.presets.model import plain, read_presets
from bathyphon.core.recipes import RECIPES, Recipe
from bathyphon.core.recipes.own.recipe import own_recipe
from bathyphon.core.recipes.own.taking import Selected, recipe_of
from bathyphon.core.recipes.own.values import Value, values_of
from bathyphon.core.sounds.made import Made
from bathyphon.server.presets import keeping
from bathyphon.server.presets.models import KeptPreset
from bathyphon.server.reels.head import seen_by

OWN = "own."
"""How ids of one's own recipes begin in documents."""


def known_recipe(account: User, id: str) -> Recipe | None:
    """A recipe that ships, or one that an account has or that is shared with it."""
    if not id.startswith(OWN):
        return RECIPES.get(id)
    try:
        wanted = UUID(id.removeprefix(OWN))
    except ValueError:
        return None
    row = KeptPreset.visible_to(account).filter(pk=wanted, kind="recipe").first()
    return recipe_in(row) if row else None


def used_now(account: User, id: str) -> None:
    """Remember when one of one's own was used last; of those that ship nothing is kept."""
    if id.startswith(OWN):
        keeping.used_now(account, UUID(id.removeprefix(OWN)))


def recipe_in(row: KeptPreset) -> Recipe | None:
    """What a row holds; none where nothing of it is known to this version."""
    (preset,) = read_presets(row.document)
    try:
        return own_recipe(preset, f"{OWN}{row.pk}")
    except Refused:
        return None


def values_in(row: KeptPreset) -> list[Value]:
    """The values that it may ask for."""
    return values_of(row.document["body"])


def take(account: User, reel: UUID, selected: Selected, name: str) -> KeptPreset:
    """Keep a recipe of what is selected in a reel."""
    head = seen_by(account, reel)

    def made_of(media: str) -> Made | None:
        try:
            return keeping.made_in(account, UUID(media))
        except (Refused, ValueError):
            return None

    preset = recipe_of(head.document, head.reel, selected, name, made_of)
    return keeping.keep(account, preset)[0]


def recipe_of_own(account: User, id: UUID, locked: bool = False) -> KeptPreset:
    """A recipe that an account may change."""
    row = keeping.own(account, id, locked)
    if row.kind != "recipe":
        raise Refused("this is no recipe")
    return row


def ask(account: User, id: UUID, questions: list[dict[str, Any]]) -> KeptPreset:
    """Let a recipe ask for other values.

    Raises
    ------
    Refused
        If it holds no such value, or two questions ask for the same.
    """
    with transaction.atomic():
        row = recipe_of_own(account, id, locked=True)
        there = {value.path for value in values_in(row)}
        asked = [path for question in questions for path in question["asks"]]
        for path in asked:
            if path not in there:
                raise Refused(f"this recipe has no fixed value “{path}”", "questions")
        if len(set(asked)) < len(asked):
            raise Refused("each value can be asked for only once", "questions")
        (preset,) = read_presets(
            {**row.document, "body": {**row.document["body"], "questions": questions}}
        )
        row.document = plain(preset)
        row.save(update_fields=["document"])
    return row
