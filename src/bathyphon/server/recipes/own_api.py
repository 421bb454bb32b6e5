"""Recipes of one's own over HTTP."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

from django.contrib.auth.models import User
from django.http import HttpRequest
from ninja import Field, Query, Router, Schema
from ninja.responses import Status

from bathyphon.core.presets.bodies import MOST_QUESTIONS
from bathyphon.core.recipes.own.taking import Selected
from bathyphon.server.current import account_of
from bathyphon.server.effects import ParameterTable
from bathyphon.server.presets import keeping
from bathyphon.server.presets.api import KeptLine
from bathyphon.server.presets.models import KeptPreset
from bathyphon.server.recipes import own
from bathyphon.server.recipes.api import RecipeLine, line_of

router = Router(tags=["recipes"])
LONGEST_TEXT = 200
Id = Annotated[str, Field(max_length=120)]
Ids = Annotated[list[Id], Field(max_length=300)]
Sample = Annotated[int, Field(ge=0, le=2**47)]
Label = Annotated[str, Field(min_length=1, max_length=80)]


class ValueLine(Schema):
    """A value that a recipe may ask for, what it belongs to, and whether somebody has set it."""

    path: str
    of: str
    telling: bool
    parameter: ParameterTable


class Question(Schema):
    """What is asked, and for which values."""

    label: Label
    asks: Annotated[list[Id], Field(min_length=1, max_length=200)]


class OwnRecipe(Schema):
    """A recipe of one's own; ``recipe`` is none where nothing of it is known here."""

    preset: KeptLine
    recipe: RecipeLine | None
    questions: list[Question]


class TakenRecipe(Schema):
    """What a recipe is made of: a clip, treatments, or a range of tracks."""

    reel: UUID
    name: Annotated[str, Field(min_length=1, max_length=400)]
    clip: Id | None = None
    treatments: Ids = Field(default_factory=list)
    tracks: Ids = Field(default_factory=list)
    start: Sample = 0
    end: Sample = 0


class Asked(Schema):
    """All that it is to ask from now on."""

    questions: Annotated[list[Question], Field(max_length=MOST_QUESTIONS)]


def _line(row: KeptPreset, account: User) -> dict[str, Any]:
    recipe = own.recipe_in(row)
    return {
        "preset": KeptLine.of(row, account),
        "recipe": recipe and line_of(recipe),
        "questions": row.document["body"].get("questions", []),
    }


@router.get("", response=list[OwnRecipe])
def own_recipes(
    request: HttpRequest, text: Annotated[str, Query(max_length=LONGEST_TEXT)] = ""
) -> list[dict[str, Any]]:
    """Own recipes that words may mean, favourites and those used last first."""
    account = account_of(request)
    return [_line(row, account) for row in keeping.listed(account, text, "recipe")]


@router.post("", response={201: OwnRecipe})
def take(request: HttpRequest, body: TakenRecipe) -> Any:
    """Make a recipe of what is selected in a reel; it asks for the values that were set."""
    account = account_of(request)
    selected = Selected(body.clip, tuple(body.treatments), tuple(body.tracks), body.start, body.end)
    return Status(201, _line(own.take(account, body.reel, selected, body.name), account))


@router.get("{uuid:id}/values", response=list[ValueLine])
def values(request: HttpRequest, id: UUID) -> list[dict[str, Any]]:
    """All that a recipe may ask for: only who chooses wants to see it."""
    return [
        {
            "path": value.path,
            "of": value.of,
            "telling": value.telling,
            "parameter": ParameterTable.from_orm(value.parameter).dict(),
        }
        for value in own.values_in(own.recipe_of_own(account_of(request), id))
    ]


@router.put("{uuid:id}/questions", response=OwnRecipe)
def ask(request: HttpRequest, id: UUID, body: Asked) -> dict[str, Any]:
    """Choose what a recipe asks."""
    account = account_of(request)
    return _line(own.ask(account, id, body.dict()["questions"]), account)
