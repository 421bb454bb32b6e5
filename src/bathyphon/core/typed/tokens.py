"""A typed line taken apart: words, and amounts with their units."""

from __future__ import annotations

import re
from dataclasses import dataclass

from bathyphon.core.typed.spellings import ELSEWHERE, SPELLINGS
from bathyphon.core.typed.values import spaced


def _unit_words() -> list[str]:
    words = {word for spelled in SPELLINGS.values() for word in spelled}
    words |= {word for spelled in ELSEWHERE.values() for word in spelled}
    return sorted(words - {"c", "k", ""}, key=len, reverse=True)


AMOUNT = re.compile(
    r"[+-]? ?(?:\d+(?:[.,]\d+)?|[.,]\d+)(?: ?/ ?\d+)?"
    rf"(?: ?(?:{'|'.join(map(re.escape, _unit_words()))}|k)(?![a-z]))?",
    re.ASCII | re.IGNORECASE,
)
TOKEN = re.compile(
    rf"(?P<amount>(?<![a-z\d])(?:{AMOUNT.pattern})(?![a-z\d]))|(?P<word>[^\s,;=]+)",
    re.IGNORECASE,
)


@dataclass(frozen=True)
class Token:
    """A word in small letters, or an amount as it was typed."""

    text: str
    amount: bool


def tokens_of(text: str) -> list[Token]:
    """A line taken apart.

    Examples
    --------
    >>> [t.text for t in tokens_of('Echo 86m, right time 1.2 s')]
    ['echo', '86m', 'right', 'time', '1.2 s']
    """
    found = []
    for match in TOKEN.finditer(spaced(text)):
        if match["amount"]:
            found.append(Token(match["amount"].strip(), True))
        else:
            words = re.sub(r"(?<=\w)[-_](?=\w)", " ", match["word"].lower()).split()
            found += [Token(word.strip(".:!?“”\"'"), False) for word in words]
    return [token for token in found if token.text]
