"""Carrying recipes out for an account: its sounds become its media, the edits are worked out."""

from __future__ import annotations

import uuid
from collections.abc import Mapping
from typing import Any

from django.contrib.auth.models import User

from bathyphon.core.arrays import Floats
from bathyphon.core.edits import apply_edits, parse_command
from bathyphon.core.edits.find import places_of
from bathyphon.core.edits.here import Place
from bathyphon.core.edits.prints import touched
from bathyphon.core.errors import Refused
from bathyphon.core.recipes.kit.scene import Scene
from bathyphon.core.reel.model import Document, Reel
from bathyphon.server.ids import new_id
from bathyphon.server.recipes.own import known_recipe
from bathyphon.server.reels.found import beats_by_clip
from bathyphon.server.reels.head import seen_by
from bathyphon.server.sound.media import PreparedMedia
from bathyphon.server.sounds.making import medium_of

HEARD_S = 20.0
"""So much of a clip a recipe listens to."""
WORDS = {"treatment": "a treatment", "clip": "a clip", "effect": "an effect", "values": "a clip"}


def worked_out(
    account: User,
    reel: uuid.UUID,
    recipe: str,
    answers: Mapping[str, Any],
    place: Mapping[str, Any],
    again: str | None,
) -> dict[str, Any]:
    """The edits of a recipe at a place; with ``again`` those that take back what it made before."""
    known = known_recipe(account, recipe)
    if known is None:
        raise Refused("there is no such recipe", "recipe")
    head = seen_by(account, reel)
    document, parsed = head.document, head.reel
    before: list[dict[str, Any]] = []
    if again is not None:
        before = back_of(document, again)
        edit = apply_edits(document, parsed, [parse_command(c) for c in before])
        document, parsed = edit.document, edit.reel
    media: list[str] = []
    scene = _scene(account, document, parsed, place, media)
    plan = known.plan(scene, answers)
    span = plan.span or scene.stretch()
    return {
        "commands": before + plan.commands,
        "start": max(0, span.start),
        "end": span.end,
        "said": plan.said,
        "media": media,
    }


def back_of(document: Document, id: str) -> list[dict[str, Any]]:
    """The edits that take back what a recipe made, if nothing of it was changed since."""
    for made in document.get("made", []):
        if made["id"] == id:
            changed = touched(document, made)
            if changed:
                raise Refused(
                    f"{_said(changed)} of it was changed by hand since; undo that, or let it be "
                    "and begin anew"
                )
            return [*made.get("back", []), {"kind": "forget_recipe", "id": id}]
    raise Refused("there is no such recipe in this reel", "again")


def made_in(account: User, reel: uuid.UUID) -> list[dict[str, Any]]:
    """What recipes have made in a reel, the newest first."""
    document = {"made": [], **seen_by(account, reel).document}
    lines = []
    recipes = {id: known_recipe(account, id) for id in {m["recipe"] for m in document["made"]}}
    for made in reversed(document["made"]):
        known = recipes[made["recipe"]]
        asked = {row.id for row in known.table.questions} if known else set[str]()
        lines.append(
            {
                "id": made["id"],
                "recipe": made["recipe"] if known else None,
                # What it asks may be something else since.
                "answers": {k: v for k, v in made.get("answers", {}).items() if k in asked},
                "place": made.get("place", {}),
                "label": known.table.label if known else made.get("label") or made["recipe"],
                "touched": [_said([part]) for part in touched(document, made)],
            }
        )
    return lines


def _said(parts: list[str]) -> str:
    words = [WORDS.get(part.partition(":")[0], "a part") for part in parts]
    return " and ".join(dict.fromkeys(words))


def _scene(
    account: User, document: Document, reel: Reel, place: Mapping[str, Any], media: list[str]
) -> Scene:
    def sounds(
        model: str, settings: dict[str, float], seconds: float, name: str, seed: int
    ) -> tuple[str, str, int]:
        medium, samples = medium_of(account, model, settings, seed, seconds, name, reel.sample_rate)
        media.append(str(medium.pk))
        return str(medium.pk), medium.name, samples

    def hears(clip: str) -> Floats:
        # Sound takes a moment to import: only a recipe that listens needs it.
        from bathyphon.core.engine.alone import clip_alone

        return clip_alone(document, clip, PreparedMedia(account, reel), HEARD_S)

    def beats_of(clip: str) -> list[int]:
        return beats_by_clip(account, reel).get(clip, [])

    there = places_of(document)
    wanted = dict(place)
    for key in ("clip", "other"):
        if wanted.get(key) and not there.has_clip(wanted[key]):
            wanted[key] = None
    return Scene(document, reel, Place(**wanted), sounds, new_id, hears, beats_of)
