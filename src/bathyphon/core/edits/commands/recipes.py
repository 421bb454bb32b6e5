"""Remembering what a recipe has made, and taking it back."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from bathyphon.core.edits.command import EditCommand, Part, append_to
from bathyphon.core.edits.patch import Patch
from bathyphon.core.edits.prints import print_of
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document
from bathyphon.core.timing.clock import Clock

MOST_PARTS = 2000


class RecordRecipe(EditCommand):
    """Remember a recipe that has just been carried out.

    Parameters
    ----------
    recipe, label : str
        Its id, and what it is called: the history has the whole edit under that name.
    answers : dict
    place : dict
        Where it was asked to work.
    parts : list of str
        What it made: ``treatment:ID``, ``clip:ID``, ``effect:OWNER|ID``,
        ``values:clip:ID|KEY,KEY``.
    back : list of dict
        The commands that take it back as long as its parts are as it made them.
    """

    names_the_edit: ClassVar[bool] = True
    kind: Literal["record_recipe"]
    id: str = Field(min_length=1, max_length=64)
    recipe: str = Field(max_length=64)
    label: str = Field("", max_length=400)
    answers: Part
    place: Part
    parts: list[str] = Field(max_length=MOST_PARTS)
    back: list[Part] = Field(max_length=MOST_PARTS)

    def patch(self, document: Document, clock: Clock) -> Patch:
        made = {
            "id": self.id, "recipe": self.recipe, "label": self.label,
            "answers": self.answers, "place": self.place, "parts": self.parts, "back": self.back,
            "prints": [print_of(document, part) for part in self.parts],
        }  # fmt: skip
        return append_to(document, (), "made", made)

    def title(self, document: Document) -> str:
        return f"recipe: {self.label or self.recipe}"


class ForgetRecipe(EditCommand):
    """Let what a recipe has made be ordinary parts from now on."""

    kind: Literal["forget_recipe"]
    id: str

    def patch(self, document: Document, clock: Clock) -> Patch:
        for index, made in enumerate(document.get("made", [])):
            if made["id"] == self.id:
                return [{"op": "remove", "path": f"/made/{index}"}]
        raise Refused("there is no such recipe in this reel", "id")

    def title(self, document: Document) -> str:
        return "let a recipe go"
