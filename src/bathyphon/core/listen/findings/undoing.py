"""Treatments of which one undoes what the other does."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations
from typing import Any

from bathyphon.core.listen.finding import Check, Command, Cure, Finding
from bathyphon.core.listen.survey import Owner, Survey
from bathyphon.core.reel.model import EffectPart

LEAST_SHARE = 0.6
"""Two spans that overlap by less of the shorter one are different places."""
SAME_HZ = 1.15
OPPOSITE: dict[str, dict[str, float]] = {
    "gain": {"level_db": 3.0},
    "tone": {"bass_db": 3.0, "treble_db": 3.0},
    "pitch": {"semitones": 0.5},
    "pan": {"position": 20.0},
}
"""Values that undo each other when they add up to nothing, and from what size on that counts."""


def find(survey: Survey) -> Iterator[Finding]:
    """Pairs of effects on the same sound that cancel each other."""
    effects = [
        (owner, effect)
        for owner in survey.owners()
        if not owner.chain.bypass
        for effect in owner.chain.effects
        if not effect.bypass
    ]
    for (one, a), (other, b) in combinations(effects, 2):
        if a.kind != b.kind or not _same_sound(survey, one, other):
            continue
        what = _cancelled(a, b)
        if not what:
            continue
        commands: tuple[Command, ...] = tuple(
            {"kind": "remove_effect", "owner": owner.name, "id": effect.id}
            for owner, effect in ((one, a), (other, b))
        )
        start, stop = max(one.start, other.start), min(one.stop, other.stop)
        where = (
            f"in “{one.label}”" if one.name == other.name else f"“{one.label}” and “{other.label}”"
        )
        yield Finding(
            "undoing", start, stop, f"Two effects cancel each other out: {where}",
            f"{what}. Together they cost quality and change nothing.", 0.8,
            one.name, one.track_id, Cure("Remove both", commands),
            part=f"{a.id}/{b.id}",
        )  # fmt: skip


def _same_sound(survey: Survey, one: Owner, other: Owner) -> bool:
    """Whether both act on the same sound for most of the time."""
    tracks = {o.track.id for o in (one, other) if o.track is not None}
    if len(tracks) > 1:
        return False
    clips = {o.name for o in (one, other) if o.name.startswith("clip:")}
    if len(clips) > 1:
        return False
    start, stop = max(one.start, other.start), min(one.stop, other.stop)
    shorter = min(one.stop - one.start, other.stop - other.start)
    return stop - start >= LEAST_SHARE * max(1, shorter)


def _cancelled(a: EffectPart, b: EffectPart) -> str:
    for id, least in OPPOSITE.get(a.kind, {}).items():
        x, y = a.params.get(id), b.params.get(id)
        if isinstance(x, (int, float)) and isinstance(y, (int, float)) and _opposite(x, y, least):
            return f"{x:+.4g} and {y:+.4g}"
    if a.kind == "eq":
        for one in a.params.get("bands", []):
            for other in b.params.get("bands", []):
                if _bands_cancel(one, other):
                    return f"{one['gain_db']:+.4g} and {other['gain_db']:+.4g} dB at one frequency"
    return ""


def _opposite(x: float, y: float, least: float) -> bool:
    return min(abs(x), abs(y)) >= least and abs(x + y) <= 0.15 * max(abs(x), abs(y))


def _bands_cancel(a: dict[str, Any], b: dict[str, Any]) -> bool:
    if a.get("type", "peak") != b.get("type", "peak"):
        return False
    gains, places = (
        [v for band in (a, b) if isinstance(v := band.get(key), (int, float))]
        for key in ("gain_db", "freq_hz")
    )
    if len(gains) < 2 or len(places) < 2:
        return False
    ratio = max(places) / max(1e-9, min(places))
    return ratio <= SAME_HZ and _opposite(gains[0], gains[1], 3.0)


CHECK = Check(
    "undoing", "Effects that cancel each other out",
    "Up here and down there by as much: most often one was meant to replace the other.",
    find, (), 95,
)  # fmt: skip
