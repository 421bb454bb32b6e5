"""An effect as one types it: “echo 86m 18%”, “pitch -3 st”, “muffle 3f, high cut 500 hz”.

A line is words and amounts in any order. An amount belongs to the value that is named beside it; a
bare one to the most telling value that has its unit, and bare frames are ramps. What is left of the
words must name the effect, see :mod:`~bathyphon.core.typed.search`. What is not understood is told:
nothing is guessed, and nothing is left out in silence.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import lru_cache

from bathyphon.core.effects import EFFECTS, Effect
from bathyphon.core.effects.kit.table import Parameter
from bathyphon.core.errors import Refused
from bathyphon.core.typed.spellings import ELSEWHERE, PERCENT, SPELLINGS, UNITS
from bathyphon.core.typed.values import Known, plainly, read_value, shown

MOST_RAMPS = 2
RAMPS: Mapping[tuple[str, ...], tuple[str, ...]] = {
    ("ramp",): ("in", "out"),
    ("ramps",): ("in", "out"),
    ("ramp", "in"): ("in",),
    ("ramp", "out"): ("out",),
    ("fade", "in"): ("in",),
    ("fade", "out"): ("out",),
}
"""What a treatment's ramps are called, and which of the two are meant."""


def _unit_words() -> list[str]:
    words = {word for spelled in SPELLINGS.values() for word in spelled}
    words |= {word for spelled in ELSEWHERE.values() for word in spelled}
    return sorted(words - {"c", "k", ""}, key=len, reverse=True)


AMOUNT = re.compile(
    r"[+-]? ?(?:\d+(?:[.,]\d+)?|[.,]\d+)(?: ?/ ?\d+)?"
    rf"(?: ?(?:{'|'.join(map(re.escape, _unit_words()))}|k)(?![a-z]))?",
    re.ASCII,
)
TOKEN = re.compile(rf"(?P<amount>(?<![a-z\d])(?:{AMOUNT.pattern})(?![a-z\d]))|(?P<word>[^\s,;=]+)")


@dataclass(frozen=True)
class Token:
    """A word, or an amount as it was typed."""

    text: str
    amount: bool


@dataclass
class Understood:
    """What a line means for one effect.

    Parameters
    ----------
    values : dict
        Numbers, and names of choices, by the parameters' ids.
    ramps : dict
        Frames of ``in`` and ``out``, as far as they were given.
    left : list of str
        Words that name no value.
    why : str
        What cannot be done; empty if all can.
    """

    values: dict[str, float | str] = field(default_factory=dict)
    ramps: dict[str, int] = field(default_factory=dict)
    left: list[str] = field(default_factory=list)
    why: str = ""


def tokens_of(text: str) -> list[Token]:
    """A line taken apart.

    Examples
    --------
    >>> [t.text for t in tokens_of('Echo 86m, right time 1.2 s')]
    ['echo', '86m', 'right', 'time', '1.2 s']
    """
    found = []
    for match in TOKEN.finditer(plainly(text)):
        if match["amount"]:
            found.append(Token(match["amount"].strip(), True))
        else:
            words = re.sub(r"(?<=\w)[-_](?=\w)", " ", match["word"]).split()
            found += [Token(word.strip(".:!?“”\"'"), False) for word in words]
    return [token for token in found if token.text]


def understand(effect: Effect, tokens: Sequence[Token], known: Known) -> Understood:
    """What a line means if it is about an effect.

    Parameters
    ----------
    effect : Effect
    tokens : sequence of Token
    known : dict
        Milliseconds of a frame and a beat, as far as they are known.
    """
    line = Understood()
    taken: set[int] = set()
    _take_choices(effect, tokens, taken, line)
    named: list[tuple[Parameter, str]] = []
    bare: list[str] = []
    for i, token in enumerate(tokens):
        if not token.amount:
            continue
        name = _name_beside(effect, tokens, i, taken)
        taken.add(i)
        if name is None:
            bare.append(token.text)
            continue
        words, parameter, ramps = name
        taken |= words
        if parameter is None:
            _set_ramps(line, ramps, token.text, known)
        else:
            named.append((parameter, token.text))
    line.left = [token.text for i, token in enumerate(tokens) if i not in taken]
    # What a metre is may depend on the other values.
    for parameter, text in sorted(named, key=lambda one: _in_metres(one[1])):
        _set_value(line, parameter, text, {**known, **effect.lengths(line.values)})
    for text in sorted(bare, key=_in_metres):
        _place(effect, text, {**known, **effect.lengths(line.values)}, line)
    return line


def said(effect: Effect, line: Understood) -> str:
    """What was understood, in words: “Decay 6 s, ramps 3 f”."""
    rows = {p.id: p for p in effect.parameters}
    parts = [
        f"{rows[id].label} {value if isinstance(value, str) else shown(rows[id], value)}"
        for id, value in line.values.items()
    ]
    first, last = line.ramps.get("in"), line.ramps.get("out")
    if first is not None and first == last:
        parts.append(f"ramps {first} f")
    else:
        parts += [f"ramp {which} {frames} f" for which, frames in line.ramps.items()]
    return ", ".join(parts)


Name = tuple[set[int], Parameter | None, tuple[str, ...]]


def _name_beside(effect: Effect, tokens: Sequence[Token], at: int, taken: set[int]) -> Name | None:
    """The value that an amount is given for: named before it, or else right after it."""
    before = at
    while before > 0 and not tokens[before - 1].amount and before - 1 not in taken:
        before -= 1
    after = at + 1
    while after < len(tokens) and not tokens[after].amount:
        after += 1
    spans = [range(start, at) for start in range(before, at)]
    spans += [range(at + 1, stop) for stop in range(after, at + 1, -1)]
    for span in spans:
        words = tuple(tokens[i].text for i in span)
        if words in RAMPS:
            return set(span), None, RAMPS[words]
        parameter = named_by(effect, words)
        if parameter is not None:
            return set(span), parameter, ()
    return None


def named_by(effect: Effect, words: tuple[str, ...]) -> Parameter | None:
    """The parameter that words name: by its label, its id or an unambiguous beginning of these."""
    names = _names_of(effect.id)
    exact = [id for id, spelled in names if words in spelled]
    begun = [id for id, spelled in names if any(_begins(words, name) for name in spelled)]
    if exact or (len(begun) == 1 and all(len(word) > 1 for word in words)):
        return effect.parameter((exact or begun)[0])
    return None


@lru_cache(256)
def _names_of(effect: str) -> list[tuple[str, list[tuple[str, ...]]]]:
    return [(p.id, _names(p)) for p in EFFECTS[effect].parameters]


def _names(parameter: Parameter) -> list[tuple[str, ...]]:
    label = tuple(parameter.label.lower().replace("-", " ").split())
    id = tuple(parameter.id.split("_"))
    together = ("".join(label),)
    return [label, id, id[:-1] or id, together]


def _begins(words: tuple[str, ...], name: tuple[str, ...]) -> bool:
    return len(words) <= len(name) and all(
        part.startswith(word) for word, part in zip(words, name, strict=False)
    )


def _set_value(line: Understood, parameter: Parameter, text: str, known: Known) -> None:
    if parameter.id in line.values:
        line.why = line.why or f"{parameter.label} is given twice"
        return
    if parameter.choices:
        index = parameter.chosen(text.replace(" ", ""))
        if index is None:
            names = ", ".join(parameter.choices)
            line.why = line.why or f"{parameter.label} is one of {names}, not “{text}”"
        else:
            line.values[parameter.id] = parameter.choices[index]
        return
    try:
        line.values[parameter.id] = read_value(parameter, text, known)
    except Refused as refused:
        line.why = line.why or refused.message


def _set_ramps(line: Understood, which: tuple[str, ...], text: str, known: Known) -> None:
    frames = _frames(text, known)
    if frames is None:
        line.why = line.why or f"give ramps in frames, such as 3 f, not as “{text}”"
    elif any(one in line.ramps for one in which) and len(which) == 1:
        line.why = line.why or f"ramp {which[0]} is given twice"
    elif len(line.ramps) == MOST_RAMPS and len(which) == MOST_RAMPS:
        # “3f 6f”: the first was meant for both until there was a second.
        line.ramps["out"] = frames
    else:
        line.ramps |= dict.fromkeys(which, frames)


def _frames(text: str, known: Known) -> int | None:
    found = re.fullmatch(r"(\d+) ?(f|fr|frames?|ms|s|sec|seconds?)?", text)
    if not found:
        return None
    number, unit = int(found[1]), found[2] or "f"
    if unit.startswith("f"):
        return number
    if "f" not in known:
        return None
    return round(number * (1.0 if unit == "ms" else 1000.0) / known["f"])


def _take_choices(
    effect: Effect, tokens: Sequence[Token], taken: set[int], line: Understood
) -> None:
    """Choices by name: “distance in water”, “formants follow”."""
    for i, token in enumerate(tokens):
        if i in taken or token.amount:
            continue
        for parameter in effect.parameters:
            if not parameter.choices or parameter.id in line.values:
                continue
            names = {c.lower().replace("_", " "): c for c in parameter.choices}
            chosen = names.get(token.text)
            for start in range(max(0, i - 3), i):
                span = range(start, i)
                words = tuple(tokens[k].text for k in span)
                free = not taken & set(span) and not any(tokens[k].amount for k in span)
                if chosen and free and named_by(effect, words) == parameter:
                    line.values[parameter.id] = chosen
                    taken |= {*span, i}
                    break


def _place(effect: Effect, text: str, known: Known, line: Understood) -> None:
    """Give an amount that has no name to the most telling value of its unit."""
    word = text.lstrip("+-.,/0123456789 ")
    if not word:
        line.why = line.why or f"“{text}” needs a unit, or the name of a value before it"
        return
    if word in ELSEWHERE["f"]:
        both = line.ramps.keys() == {"in", "out"}
        if line.ramps and not (both and line.ramps["in"] == line.ramps["out"]):
            line.why = line.why or "a treatment has two ramps: in and out"
        else:
            _set_ramps(line, ("in", "out"), text, known)
        return
    order = {id: place for place, id in enumerate(effect.table.telling)}
    free = [
        p
        for p in sorted(effect.parameters, key=lambda p: order.get(p.id, len(order)))
        if p.id not in line.values and not p.choices
    ]
    parameter = next((p for p in free if _measured_in(p, word, known)), None)
    if parameter is None and word in PERCENT:
        parameter = next((p for p in free if p.scale == "db" and p.low < 0), None)
    if parameter is None:
        line.why = line.why or f"{effect.label} has no value that “{text}” could be"
    else:
        _set_value(line, parameter, text, known)


def _in_metres(text: str) -> bool:
    return text.lstrip("+-.,/0123456789 ") in ELSEWHERE["m"]


def _measured_in(parameter: Parameter, word: str, known: Known) -> bool:
    unit = UNITS.get(parameter.unit)
    if unit is None:
        return False
    if unit.measure == "time":
        own = next((key for key, words in ELSEWHERE.items() if word in words), None)
        if own is not None:
            return own in known
    return word in SPELLINGS[unit.measure]
