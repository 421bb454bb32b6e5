"""Edits of which cures are made."""

from __future__ import annotations

from hashlib import blake2b
from typing import Any

from bathyphon.core.listen.finding import Command
from bathyphon.core.listen.survey import Owner, Survey
from bathyphon.core.measure.loudness import integrated
from bathyphon.core.measure.tally import WEIGHTED
from bathyphon.core.reel.model import Keyframes, Movable, Track

HIGHEST_DB, LOWEST_DB = 24.0, -96.0
SPEECH_LUFS, PAUSES_LU = -30.0, 16.0
"""Of speech whose loudness is not known; and how far below it a word is not taken for a pause."""


def new_id(survey: Survey, *about: str) -> str:
    """An id that the document does not have yet, the same for the same cure."""
    taken = {e.id for owner in survey.owners() for e in owner.chain.effects}
    base = blake2b("|".join(about).encode(), digest_size=6).hexdigest()
    number = 0
    while (id := f"m{base}{number or ''}") in taken:
        number += 1
    return id


def shifted(value: Movable, db: float) -> float | dict[str, Any]:
    """A level by so many dB higher, however it moves; silence stays silence."""

    def one(level: float) -> float:
        return level if level <= LOWEST_DB else round(max(-95.9, min(HIGHEST_DB, level + db)), 2)

    if not isinstance(value, Keyframes):
        return one(value)
    given = value.model_dump(exclude_defaults=True, exclude_unset=True)
    keys = [{**k.model_dump(exclude_unset=True), "value": one(k.value)} for k in value.keyframes]
    return {**given, "keyframes": keys}


def add_effect(
    survey: Survey, owner: str, kind: str, params: dict[str, Any], index: int | None = None
) -> Command:
    """Put an effect into a chain, at its end if no place is given."""
    effect = {"id": new_id(survey, owner, kind, repr(params)), "kind": kind, "params": params}
    command: Command = {"kind": "add_effect", "owner": owner, "effect": effect}
    return command if index is None else {**command, "index": index}


def gain_after(survey: Survey, owner: Owner, db: float) -> Command:
    """Let a treatment come out by so many dB louder."""
    level = round(max(-60.0, min(HIGHEST_DB, db)), 1)
    return add_effect(survey, owner.name, "gain", {"level_db": level})


def removed(owner: Owner) -> tuple[str, tuple[Command, ...]]:
    """Take a treatment away; what is on a clip, a track or the mix is switched off."""
    kind, _, id = owner.name.partition(":")
    if kind == "treatment":
        return "Remove it", ({"kind": "remove_treatment", "id": id},)
    return "Switch it off", ({"kind": "set_chain", "owner": owner.name, "bypass": True},)


def duck_under(survey: Survey, bed: Track, speech: Track, db: float) -> Command:
    """Let a track give way by so many dB while another one speaks."""
    rows = survey.rows(0, survey.length, survey.track_node(speech))
    loudness = integrated(rows[:, WEIGHTED])
    threshold = (SPEECH_LUFS if loudness is None else loudness) - PAUSES_LU
    params = {
        "track": speech.id,
        "range_db": round(max(0.0, min(60.0, db)), 1),
        "threshold_db": round(max(-70.0, min(-20.0, threshold)), 1),
    }
    return add_effect(survey, f"track:{bed.id}", "duck", params)
