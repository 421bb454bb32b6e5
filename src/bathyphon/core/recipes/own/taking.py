"""Taking a recipe from what is selected."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from bathyphon.core.edits.find import at, clip_path, places_of, treatment_path
from bathyphon.core.errors import Refused
from bathyphon.core.presets.bodies import MOST_PARTS
from bathyphon.core.presets.model import Preset
from bathyphon.core.presets.taking import chain_body, ramp_body, ramps_body
from bathyphon.core.recipes.own.values import Value, values_of
from bathyphon.core.reel.model import Document, Reel
from bathyphon.core.sounds import MODELS
from bathyphon.core.sounds.made import Made

Body = dict[str, Any]
MadeOf = Callable[[str], Made | None]
FIRST_QUESTIONS = 3
"""So many values are asked for until one chooses others."""
DIGITS = 9


@dataclass(frozen=True)
class Selected:
    """What a recipe is taken from: a clip, treatments, or a range of some tracks.

    Parameters
    ----------
    clip : str or None
    treatments : tuple of str
    tracks : tuple of str
    start, end : int
        The range, in samples.
    """

    clip: str | None = None
    treatments: tuple[str, ...] = ()
    tracks: tuple[str, ...] = ()
    start: int = 0
    end: int = 0


def recipe_of(
    document: Document, reel: Reel, selected: Selected, name: str, made_of: MadeOf
) -> Preset:
    """A recipe that makes again what is selected: of a clip its effects, fades and level, of
    treatments all of them, of a range the treatments and computed sounds that lie in it.

    Parameters
    ----------
    made_of : callable
        The computed sound that a medium holds, by its id, if it holds one.

    Raises
    ------
    Refused
        If there is nothing in it that another place could have.
    """
    if selected.clip is not None:
        body = _of_clip(document, reel, selected.clip)
    else:
        body = _of_stretch(document, reel, selected, made_of)
    body["questions"] = first_questions(values_of(body))
    return Preset(kind="recipe", name=name, body=body)


def first_questions(values: Sequence[Value]) -> list[Body]:
    """What is asked at first: the values that somebody has set."""
    return [question(value) for value in values if value.telling][:FIRST_QUESTIONS]


def question(value: Value, label: str = "") -> Body:
    """The question for one value."""
    return {"label": label or value.parameter.label, "asks": [value.path]}


def _of_clip(document: Document, reel: Reel, id: str) -> Body:
    clip = at(document, clip_path(document, id))
    owner = f"clip:{id}"
    part: Body = {"part": "clip"}
    if places_of(document).effects(owner):
        part |= chain_body(document, reel, owner)
    for key in ("fade_in", "fade_out"):
        if clip.get(key, {}).get("length"):
            part[key] = ramp_body(clip[key], reel)
    level = clip.get("gain_db", 0.0)
    if isinstance(level, (int, float)) and level:
        part["gain_db"] = level
    if len(part) == 1:
        raise Refused("this clip has no effects, fades or level of its own to save")
    return {"needs": "clip", "parts": [part]}


def _of_stretch(document: Document, reel: Reel, selected: Selected, made_of: MadeOf) -> Body:
    if selected.treatments:
        chosen = set(selected.treatments)
        for id in selected.treatments:
            treatment_path(document, id)
        found = _treatments(document, lambda track, span: span["id"] in chosen)
        start = min(span["start"] for _, span in found)
        end = max(span["start"] + span["length"] for _, span in found)
        sounds: list[Body] = []
    else:
        start, end = selected.start, selected.end
        if end <= start:
            raise Refused("select a clip, a treatment or a range that the recipe is taken from")
        found = _treatments(
            document,
            lambda track, span: track["id"] in selected.tracks and _within(span, start, end),
        )
        sounds = [
            clip
            for track in document.get("tracks", [])
            for clip in track.get("clips", [])
            if track["id"] in selected.tracks and _within(clip, start, end)
        ]
    tracks = list(dict.fromkeys(track["id"] for track, _ in found))
    names = {t["id"]: t.get("name", "") for t in document.get("tracks", [])}

    def shares(part: Body) -> Body:
        ends = {"start": part["start"], "end": part["start"] + part["length"]}
        return {key: round((at - start) / (end - start), DIGITS) for key, at in ends.items()}

    parts = [
        {
            "part": "treatment",
            "track": tracks.index(track["id"]),
            "name": span.get("name", ""),
            **shares(span),
            **chain_body(document, reel, f"treatment:{span['id']}"),
            **ramps_body(document, reel, f"treatment:{span['id']}"),
        }
        for track, span in found
        if span.get("effects")
    ]
    for clip in sounds:
        made = made_of(clip["media"])
        if made is not None:
            parts.append(_sound(clip, made) | shares(clip))
    if not parts:
        raise Refused("no treatment or sound from the shelf lies entirely within this range")
    if len(parts) > MOST_PARTS:
        raise Refused(f"a recipe holds no more than {MOST_PARTS} parts; these are {len(parts)}")
    return {"needs": "stretch", "tracks": [names[id] for id in tracks], "parts": parts}


def _sound(clip: Body, made: Made) -> Body:
    level = clip.get("gain_db", 0.0)
    return {
        "part": MODELS[made.model].kind, "model": made.model, "settings": dict(made.settings),
        "seed": made.seed, "name": clip.get("name") or made.name,
        "gain_db": level if isinstance(level, (int, float)) else 0.0,
    }  # fmt: skip


def _treatments(
    document: Document, wanted: Callable[[Body, Body], bool]
) -> list[tuple[Body, Body]]:
    return [
        (track, span)
        for track in document.get("tracks", [])
        for span in track.get("treatments", [])
        if wanted(track, span)
    ]


def _within(part: Body, start: int, end: int) -> bool:
    return bool(start <= part["start"] and part["start"] + part["length"] <= end)
