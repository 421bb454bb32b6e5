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
from itertools import combinations

from bathyphon.core.effects import EFFECTS, Effect
from bathyphon.core.effects.kit.table import Parameter
from bathyphon.core.errors import Refused
from bathyphon.core.typed.spellings import ELSEWHERE, PERCENT, SPELLINGS, UNITS
from bathyphon.core.typed.tokens import Token
from bathyphon.core.typed.values import Known, listed, read_value, shown

MOST_RAMPS = 2
MOST_WORDS = 3
"""Words of a value's name."""
RAMPS: Mapping[tuple[str, ...], tuple[str, ...]] = {
    ("ramp",): ("in", "out"),
    ("ramps",): ("in", "out"),
    ("ramp", "in"): ("in",),
    ("ramp", "out"): ("out",),
    ("fade", "in"): ("in",),
    ("fade", "out"): ("out",),
}
"""What a treatment's ramps are called, and which of the two are meant."""


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


def understand(effect: Effect, tokens: Sequence[Token], known: Known) -> Understood:
    """What a line means if it is about an effect.

    Most people name a value before its amount, some after it: what makes sense is meant.

    Parameters
    ----------
    effect : Effect
    tokens : sequence of Token
    known : dict
        Milliseconds of a frame and a beat, as far as they are known.
    """
    before = _understood(effect, tokens, known, names_first=True)
    if not before.why and not before.left:
        return before
    after = _understood(effect, tokens, known, names_first=False)
    if not before.why:
        # Words that are left over may have been names.
        return after if not after.why and len(after.left) < len(before.left) else before
    return before if after.why or len(after.left) > len(before.left) else after


def _understood(
    effect: Effect, tokens: Sequence[Token], known: Known, names_first: bool
) -> Understood:
    line = Understood()
    taken: set[int] = set()
    _take_choices(effect, tokens, taken, line)
    named: list[tuple[Parameter, str]] = []
    bare: list[str] = []
    for i, token in enumerate(tokens):
        if not token.amount:
            continue
        name = _name_beside(effect, tokens, i, taken, names_first)
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
    parts = [
        f"{p.label} {value if isinstance(value, str) else shown(p, value)}"
        for p in effect.parameters
        if (value := line.values.get(p.id)) is not None
    ]
    first, last = line.ramps.get("in"), line.ramps.get("out")
    if first is not None and first == last:
        parts.append(f"ramps {first} f")
    else:
        parts += [f"ramp {which} {frames} f" for which, frames in line.ramps.items()]
    return ", ".join(parts)


Name = tuple[set[int], Parameter | None, tuple[str, ...]]


def _name_beside(
    effect: Effect, tokens: Sequence[Token], at: int, taken: set[int], names_first: bool
) -> Name | None:
    """The value that an amount is given for, by the words before it or after it."""
    before = at
    while before > 0 and not tokens[before - 1].amount and before - 1 not in taken:
        before -= 1
    after = at + 1
    while after < len(tokens) and not tokens[after].amount and after not in taken:
        after += 1
    # Words between two amounts belong to one of them only.
    own = before == 0 if not names_first else after == len(tokens)
    earlier = [range(start, at) for start in range(max(before, at - MOST_WORDS), at)]
    later = [range(at + 1, stop) for stop in range(min(after, at + MOST_WORDS + 1), at + 1, -1)]
    first, second = (earlier, later) if names_first else (later, earlier)
    spans = first + (second if own else [])
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
    # “echo” is the effect, not the beginning of “Echo level”.
    whole = words == _words_of(effect.label)
    if exact or (len(begun) == 1 and not whole and all(len(word) > 1 for word in words)):
        return effect.parameter((exact or begun)[0])
    return None


@lru_cache(256)
def _names_of(effect: str) -> list[tuple[str, list[tuple[str, ...]]]]:
    return [(p.id, _names(p)) for p in EFFECTS[effect].parameters]


def _names(parameter: Parameter) -> list[tuple[str, ...]]:
    label = _words_of(parameter.label)
    id = tuple(parameter.id.split("_"))
    together = ("".join(label),)
    return [label, id, id[:-1] or id, together]


def _words_of(label: str) -> tuple[str, ...]:
    return tuple(label.lower().replace("-", " ").split())


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
    found = re.fullmatch(r"(\d+) ?(f|fr|frames?|ms|s|sec|seconds?)?", text.lower())
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
    for start, i in combinations(range(len(tokens)), 2):
        span = range(start, i)
        if (
            len(span) > MOST_WORDS
            or taken & {*span, i}
            or any(tokens[k].amount for k in (*span, i))
        ):
            continue
        parameter = named_by(effect, tuple(tokens[k].text for k in span))
        if parameter is None or parameter.id in line.values:
            continue
        names = {choice.lower().replace("_", " "): choice for choice in parameter.choices}
        if tokens[i].text in names:
            line.values[parameter.id] = names[tokens[i].text]
            taken |= {*span, i}


def _place(effect: Effect, text: str, known: Known, line: Understood) -> None:
    """Give an amount that has no name to the most telling value of its unit."""
    word = _unit_of(text)
    numbers = [p for p in effect.parameters if not p.choices]
    if not word and len(numbers) == 1:
        _set_value(line, numbers[0], text, known)
        return
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
    free = [p for p in effect.parameters if p.id not in line.values and not p.choices]
    fitting = [p for p in free if _measured_in(p, word, known)]
    if not fitting and word in PERCENT:
        fitting = [p for p in free if p.scale == "db" and p.low < 0]
    if any(UNITS[p.unit].measure == "pitch" for p in fitting):
        # Semitones and cents are told apart: “-3 st 20 ct” are two values.
        fitting = [p for p in fitting if UNITS[p.unit].size == SPELLINGS["pitch"][word]] or fitting
    order = effect.table.telling
    telling = sorted((p for p in fitting if p.id in order), key=lambda p: order.index(p.id))
    if not fitting:
        line.why = line.why or f"{effect.label} has no value that “{text}” could be"
    elif telling or len(fitting) == 1:
        _set_value(line, (telling or fitting)[0], text, known)
    else:
        names = listed([p.label for p in fitting])
        line.why = line.why or f"“{text}” could be {names}: name the one you mean"


def _unit_of(amount: str) -> str:
    return amount.lower().lstrip("+-.,/0123456789 ")


def _in_metres(amount: str) -> bool:
    return _unit_of(amount) in ELSEWHERE["m"]


def _measured_in(parameter: Parameter, word: str, known: Known) -> bool:
    unit = UNITS.get(parameter.unit)
    if unit is None:
        return False
    if unit.measure == "time":
        own = next((key for key, words in ELSEWHERE.items() if word in words), None)
        if own is not None:
            return own in known
    return word in SPELLINGS[unit.measure]
