"""A recipe as the rest of the program sees it: its table, and what builds it when it is used."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from bathyphon.core.errors import Refused
from bathyphon.core.recipes.kit.table import RecipeTable

if TYPE_CHECKING:
    from bathyphon.core.recipes.kit.plan import Plan
    from bathyphon.core.recipes.kit.scene import Scene

Answers = dict[str, Any]


@dataclass(frozen=True)
class Recipe:
    """A folder of ``core/recipes``, or a recipe of one's own.

    Parameters
    ----------
    table : RecipeTable
    build : callable
        Adds to a plan what it makes of a scene and the answers.
    """

    table: RecipeTable
    build: Callable[[Scene, Answers, Plan], None]

    @property
    def id(self) -> str:
        """Name in documents."""
        return self.table.id

    def answers(self, given: Mapping[str, Any]) -> Answers:
        """Answers to all questions: what is given, else the defaults; choices by their names.

        Raises
        ------
        Refused
            Where an answer is none, or lies outside of what is possible.
        """
        known = {row.id for row in self.table.questions}
        for id in given:
            if id not in known:
                raise Refused(f"{self.table.label} does not ask for “{id}”", id)
        answers: Answers = {}
        for row in self.table.questions:
            value = row.read(given.get(row.id, row.default))
            answers[row.id] = (
                row.choices[int(value)] if row.choices else int(value) if row.whole else value
            )
        return answers

    def plan(self, scene: Scene, given: Mapping[str, Any]) -> Plan:
        """What it makes of a scene.

        Raises
        ------
        Refused
            In a sentence, where what it needs is not there or there is not enough room.
        """
        from bathyphon.core.recipes.kit.plan import Plan

        answers = self.answers(given)
        plan = Plan(scene, self.table.label)
        self.build(scene, answers, plan)
        plan.record(self.id, answers)
        return plan
