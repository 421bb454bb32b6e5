"""Recipes over HTTP: listed, worked out for a place, and opened again."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Query, Router, Schema

from bathyphon.core.recipes import RECIPES, Recipe
from bathyphon.core.recipes.find import find_recipes
from bathyphon.server.current import account_of
from bathyphon.server.effects import ParameterTable
from bathyphon.server.recipes.cooking import made_in, worked_out
from bathyphon.server.recipes.own import used_now
from bathyphon.server.reels.place import PlaceSchema

router = Router(tags=["recipes"])
of_reels = Router(tags=["recipes"])
LONGEST_TEXT = 200
Id = Annotated[str, Field(max_length=80)]


class RecipeLine(Schema):
    """A recipe: what it does and what it asks."""

    id: str
    label: str
    needs: str
    help: str
    questions: list[ParameterTable]


class RecipeRequest(Schema):
    """Answers, and where it is to work; ``again`` names what was made before and gives way."""

    trying: bool = False
    answers: dict[str, float | str] = Field(default_factory=dict)
    place: PlaceSchema
    again: Id | None = None


class WorkedOut(Schema):
    """The edits that a recipe stands for; whoever asked makes them."""

    commands: list[dict[str, Any]]
    start: int
    end: int
    said: list[str]
    media: list[str]


class RecipeMade(Schema):
    """Something in a reel that a recipe has made, and what of it was changed since; ``recipe`` is
    none where this account does not have it."""

    id: str
    recipe: str | None
    label: str
    answers: dict[str, Any]
    place: dict[str, Any]
    touched: list[str]


@router.get("", response=list[RecipeLine])
def recipes(request: HttpRequest) -> list[dict[str, Any]]:
    """Every recipe that ships, in its order."""
    return [line_of(recipe) for recipe in RECIPES.values()]


def line_of(recipe: Recipe) -> dict[str, Any]:
    """A recipe as it is answered."""
    table = recipe.table
    return {
        "id": recipe.id,
        "label": table.label,
        "needs": table.needs,
        "help": table.help,
        "questions": [ParameterTable.from_orm(row).dict() for row in table.questions],
    }


@router.get("found", response=list[str])
def found(
    request: HttpRequest, text: Annotated[str, Query(max_length=LONGEST_TEXT)] = ""
) -> list[str]:
    """Ids of the recipes that words may mean, the best first."""
    return [recipe.id for recipe in find_recipes(text)]


@of_reels.post("{uuid:id}/recipes/{recipe}", response=WorkedOut)
def work_out(request: HttpRequest, id: UUID, recipe: str, body: RecipeRequest) -> dict[str, Any]:
    """What a recipe makes of a place: edits, to be tried or made by whoever asked."""
    account = account_of(request)
    found = worked_out(account, id, recipe, body.answers, body.place.dict(), body.again)
    if not body.trying:
        used_now(account, recipe)
    return found


@of_reels.get("{uuid:id}/made", response=list[RecipeMade])
def made(request: HttpRequest, id: UUID) -> list[dict[str, Any]]:
    """What recipes have made in a reel."""
    return made_in(account_of(request), id)
