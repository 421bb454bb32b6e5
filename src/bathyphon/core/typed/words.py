"""How well words that somebody types fit what a thing is called and what it is for."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from bathyphon.core.typed.tokens import tokens_of

SHORTEST_STEM = 4
ENDINGS = frozenset({"d", "ed", "er", "ing", "s", "es", "y", "or", "ation"})
OTHER_FORM = 0.9
"""Another form of a word counts a little less than its beginning: “muffled”, “echoes”."""

CALLED, NAME, NAME_BEGUN, WORD, WORD_BEGUN, HELP, VALUE = 100.0, 70.0, 60.0, 58.0, 40.0, 12.0, 10.0
"""What a word counts: the whole name, one of its words, a word it is looked for by, its help."""

Field = tuple[float, float, tuple[str, ...]]
"""What a whole word and the beginning of one count, and the words."""


def asked_words(text: str) -> list[str]:
    """The words of what somebody looks for, amounts left out."""
    return [token.text for token in tokens_of(text) if not token.amount]


def words_of(texts: Iterable[str]) -> tuple[str, ...]:
    """Words of some texts, each once, as they are compared."""
    words = (token.text for text in texts for token in tokens_of(text))
    return tuple(dict.fromkeys(words))


def fitness(
    words: Sequence[str],
    name: str,
    fields: Sequence[Field],
) -> float:
    """How well words fit, 0 where one of them does not."""
    if " ".join(words) == " ".join(token.text for token in tokens_of(name)):
        return CALLED
    total = 0.0
    asked = set(words)
    for word in asked:
        best = max(
            (
                _nearness(word, other, whole, begun)
                for whole, begun, known in fields
                for other in known
            ),
            default=0.0,
        )
        if not best:
            return 0.0
        total += best
    return total / len(asked)


def _nearness(word: str, other: str, whole: float, begun: float) -> float:
    if word == other:
        return whole
    if other.startswith(word):
        return begun
    stem = other.removesuffix("e")
    form = word.startswith(stem) and word[len(stem) :] in ENDINGS
    return begun * OTHER_FORM if form and len(stem) >= SHORTEST_STEM else 0.0
