"""Finding effects and presets by the words that editors have for them, with values typed beside."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

from bathyphon.core.effects import EFFECTS, Effect
from bathyphon.core.typed.lines import Token, Understood, said, tokens_of, understand
from bathyphon.core.typed.values import Known

LONGEST = 200
"""Characters of a line that are read."""
SHORTEST_STEM = 4
"""A word that goes on beyond what it is compared with is another form of it: “muffled”."""

CALLED, NAME, NAME_BEGUN, WORD, WORD_BEGUN, HELP, VALUE = 100.0, 70.0, 60.0, 58.0, 40.0, 12.0, 10.0
OF_EFFECT = 20.0
"""What the name of its effect counts for a preset."""


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
    # What cannot be added comes last, so that Enter does what can.
    return sorted(found, key=lambda hit: (bool(hit.why), -hit.score))


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
        score = _score(line.left, preset.name.lower(), fields)
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
        line.values,
        line.ramps,
        said(effect, line),
        line.why,
        score,
    )


def _score_of_effect(effect: Effect, line: Understood, words: Sequence[str]) -> float:
    if line.left:
        return _score(line.left, effect.label.lower(), _fields(effect.id, ""))
    if not words and not line.values and not line.ramps:
        return 1.0 if not line.why else 0.5
    # Its values alone are named: the sooner they come among all of its own, the more it is meant.
    places = [i for i, p in enumerate(effect.parameters) if p.id in line.values]
    called = _score(words, effect.label.lower(), _fields(effect.id, "")) if words else 0.0
    return max(called, 50.0 - min(places)) if places else called or 0.5


@lru_cache(512)
def _fields(effect: str, preset: str) -> tuple[tuple[float, float, tuple[str, ...]], ...]:
    """Words of an effect or a preset, with what a whole one and a beginning of it count."""
    found = EFFECTS[effect]
    rows = [p for p in found.parameters] + [*(found.group.parameters if found.group else ())]
    labels = [row.label for row in rows]
    if not preset:
        return (
            (NAME, NAME_BEGUN, _split([found.label, found.id])),
            (WORD, WORD_BEGUN, _split(found.table.words)),
            (HELP, HELP, _split([found.table.help])),
            (VALUE, VALUE, _split(labels)),
        )
    own = next(p for p in found.presets if p.name == preset)
    return (
        (NAME, NAME_BEGUN, _split([preset])),
        (WORD, WORD_BEGUN, _split(own.words)),
        (HELP, HELP, _split([own.help])),
        (OF_EFFECT, OF_EFFECT, _split([found.label])),
    )


def _split(texts: Iterable[str]) -> tuple[str, ...]:
    words = (token.text for text in texts for token in tokens_of(text))
    return tuple(dict.fromkeys(words))


def _score(
    words: Sequence[str],
    name: str,
    fields: Sequence[tuple[float, float, tuple[str, ...]]],
) -> float:
    """How well words fit, 0 where one of them does not."""
    if " ".join(words) == " ".join(token.text for token in tokens_of(name)):
        return CALLED
    total = 0.0
    for word in words:
        best = 0.0
        for whole, begun, known in fields:
            if word in known:
                best = max(best, whole)
            elif any(_alike(word, other) for other in known):
                best = max(best, begun)
        if not best:
            return 0.0
        total += best
    return total / len(words)


def _alike(word: str, other: str) -> bool:
    """Whether one is a beginning of the other, or another form of it."""
    if other.startswith(word):
        return True
    stem = other[:-1] if other.endswith("e") else other
    return len(stem) >= SHORTEST_STEM and word.startswith(stem)
