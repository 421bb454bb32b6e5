"""Finding effects and presets by the words that editors have for them, with values typed beside."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

from bathyphon.core.effects import EFFECTS, Effect
from bathyphon.core.typed.lines import Understood, said, understand
from bathyphon.core.typed.tokens import Token, tokens_of
from bathyphon.core.typed.values import Known
from bathyphon.core.typed.words import (
    HELP,
    NAME,
    NAME_BEGUN,
    VALUE,
    WORD,
    WORD_BEGUN,
    fitness,
    words_of,
)

LONGEST = 200
"""Characters of a line that are read."""
OF_EFFECT, VALUES_ONLY, OWN_VALUE = 20.0, 50.0, 5.0
"""What the name of its effect counts for a preset; what a line counts that names
values alone, and by how much it is nearer than one in which a word of the effect was meant."""


@dataclass(frozen=True)
class Hit:
    """An effect, or one of its presets, that a line may mean.

    Parameters
    ----------
    effect, preset : str
        Id of the effect, and name of the preset; empty for the effect as it comes.
    label, help : str
    values : dict
        What the line sets, by the parameters' ids.
    ramps : dict
        Frames of the treatment's ramps, ``in`` and ``out``, as far as they are given.
    said : str
        What was understood of the values, in words.
    why : str
        Why it cannot be added as the line says; empty if it can.
    score : float
        How well the words fit: 100 where it is called so.
    """

    effect: str
    preset: str
    label: str
    help: str
    values: Mapping[str, float | str]
    ramps: Mapping[str, int]
    said: str
    why: str
    score: float


def find_effects(text: str, known: Known) -> list[Hit]:
    """Effects and presets that a line may mean, the best first.

    Parameters
    ----------
    text : str
        “hall”, “echo 86m 18%”, “level −4 dB”. Without any word: every effect, in its order.
    known : dict
        Milliseconds of a frame and of a beat, as far as they are known.

    Examples
    --------
    >>> hit = find_effects("echo 86m 18%", {})[0]
    >>> hit.effect, hit.said
    ('echo', 'Time 501 ms, Feedback 18 %')
    """
    tokens = tokens_of(text[:LONGEST])
    found = [hit for effect in EFFECTS.values() for hit in _hits(effect, tokens, known)]
    found.sort(key=lambda hit: (-hit.score, bool(hit.why)))
    # Where something can be done, what cannot is no help.
    return [hit for hit in found if not hit.why] if found and not found[0].why else found


def not_understood(text: str) -> list[str]:
    """Words of a line that no effect and no preset goes by, where nothing was found."""
    tokens = tokens_of(text[:LONGEST])
    words = [token.text for token in tokens if not token.amount]
    return [
        word for word in words if not any(_goes_by(effect, word) for effect in EFFECTS.values())
    ]


def _goes_by(effect: Effect, word: str) -> bool:
    names = ["", *(preset.name for preset in effect.presets)]
    return any(fitness([word], "", _fields(effect.id, name)) for name in names)


def _hits(effect: Effect, tokens: Sequence[Token], known: Known) -> Iterable[Hit]:
    line = understand(effect, tokens, known)
    words = [token.text for token in tokens if not token.amount]
    score = _score_of_effect(effect, line, words)
    if score:
        yield _hit(effect, "", effect.label, effect.table.help, line, score)
    if not line.left:
        return
    for preset in effect.presets:
        fields = _fields(effect.id, preset.name)
        score = fitness(line.left, preset.name.lower(), fields)
        if score > OF_EFFECT:
            yield _hit(
                effect, preset.name, f"{effect.label}: {preset.name}", preset.help, line, score
            )


def _hit(effect: Effect, preset: str, label: str, help: str, line: Understood, score: float) -> Hit:
    return Hit(
        effect.id,
        preset,
        label,
        help,
        line.values if preset else {**effect.table.added, **line.values},
        line.ramps,
        said(effect, line),
        line.why,
        score,
    )


def _score_of_effect(effect: Effect, line: Understood, words: Sequence[str]) -> float:
    if line.left:
        return fitness(line.left, effect.label.lower(), _fields(effect.id, ""))
    if not words and not line.values and not line.ramps:
        return 1.0 if not line.why else 0.5
    # Its values alone are named.
    called = fitness(words, effect.label.lower(), _fields(effect.id, "")) if words else 0.0
    return max(called, VALUES_ONLY) + OWN_VALUE if line.values else called or 0.5


@lru_cache(512)
def _fields(effect: str, preset: str) -> tuple[tuple[float, float, tuple[str, ...]], ...]:
    """Words of an effect or a preset, with what a whole one and a beginning of it count."""
    found = EFFECTS[effect]
    rows = [*found.parameters, *(found.group.parameters if found.group else ())]
    labels = [row.label for row in rows]
    if not preset:
        return (
            (NAME, NAME_BEGUN, words_of([found.label, found.id])),
            (WORD, WORD_BEGUN, words_of([found.table.words])),
            (HELP, HELP, words_of([found.table.help])),
            (VALUE, VALUE, words_of(labels)),
        )
    own = next(p for p in found.presets if p.name == preset)
    return (
        (NAME, NAME_BEGUN, words_of([preset])),
        # Where both are called so, the preset is nearer to what is wanted.
        (WORD + 1, WORD_BEGUN + 1, words_of([own.words])),
        (HELP, HELP, words_of([own.help])),
        (OF_EFFECT, OF_EFFECT, words_of([found.label])),
    )
