"""The effects' tables, as the front end reads them."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router, Schema

from bathyphon.core.effects import EFFECTS

router = Router(tags=["effects"])


class ParameterTable(Schema):
    """One parameter of an effect."""

    id: str
    label: str
    unit: str
    low: float
    high: float
    scale: str
    default: float | None
    neutral: float | None
    follows: str
    help: str
    movable: bool
    whole: bool
    choices: list[str]


class EffectTable(Schema):
    """One effect."""

    id: str
    label: str
    engages: str
    telling: list[str]
    help: str
    parameters: list[ParameterTable]


@router.get("", response=list[EffectTable])
def list_effects(request: HttpRequest) -> list[dict[str, Any]]:
    """Every effect with its parameters."""
    return [effect.table() for effect in EFFECTS.values()]
