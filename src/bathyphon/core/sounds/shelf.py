"""The sounds that ship, by name, and finding them by words."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from unicodedata import combining, normalize

from bathyphon.core.sounds import MODELS
from bathyphon.core.sounds.kit.model import Model
from bathyphon.core.sounds.kit.table import Shipped
from bathyphon.core.typed.words import (
    HELP,
    NAME,
    NAME_BEGUN,
    WORD,
    WORD_BEGUN,
    Field,
    asked_words,
    fitness,
    words_of,
)

OF_MODEL = 0.7
"""What fits the model counts less than what fits the sound itself."""


@dataclass(frozen=True)
class Sound:
    """A shipped sound with its model."""

    id: str
    model: Model
    shipped: Shipped

    @property
    def fields(self) -> tuple[Field, ...]:
        """By which words it is found."""
        table = self.model.table
        return (
            (NAME, NAME_BEGUN, words_of([self.shipped.name])),
            (WORD, WORD_BEGUN, words_of([self.shipped.words])),
            (OF_MODEL * NAME, OF_MODEL * NAME_BEGUN, words_of([table.label, table.id])),
            (OF_MODEL * WORD, OF_MODEL * WORD_BEGUN, words_of([table.words, table.family])),
            (HELP, HELP, words_of([self.shipped.help, table.kind, f"{table.kind}s"])),
        )


def _all() -> Iterator[Sound]:
    for model in MODELS.values():
        for shipped in model.table.sounds:
            yield Sound(f"{model.id}/{_plain(shipped.name)}", model, shipped)


def _plain(name: str) -> str:
    """A name without accents and signs: “Diver’s breath” is ``divers-breath``."""
    letters = normalize("NFKD", name.lower().replace("’", ""))
    without = "".join(c for c in letters if not combining(c))
    return re.sub(r"[^a-z0-9]+", "-", without).strip("-")


SOUNDS: dict[str, Sound] = {sound.id: sound for sound in _all()}
"""Every shipped sound by its id, such as ``underwater/the-deep``, in the order of the shelf."""
_FIELDS = {id: sound.fields for id, sound in SOUNDS.items()}


def find_sounds(text: str) -> list[tuple[float, Sound]]:
    """Shipped sounds that words may mean with how well they fit, the best first.

    Examples
    --------
    >>> find_sounds("cave drops")[0][1].id
    'drips/drips-in-a-cave'
    """
    words = asked_words(text)
    if not words:
        return [(0.0, sound) for sound in SOUNDS.values()]
    found = [
        (fitness(words, sound.shipped.name.lower(), _FIELDS[id]), sound)
        for id, sound in SOUNDS.items()
    ]
    return sorted((hit for hit in found if hit[0] > 0), key=lambda hit: -hit[0])
