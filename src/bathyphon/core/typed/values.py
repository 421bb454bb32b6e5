"""Reading a value as people type it: understood as it is meant, or refused with the reason.

Nothing is bent into something else: a unit that does not measure what is asked for, a number out of
range or one that can be read two ways is refused. The front end reads by the same rules
(``web/src/typed/values.ts``); both are tried on ``tests/core/typed/values.json``.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterable, Mapping
from typing import Protocol

from bathyphon.core.errors import Refused
from bathyphon.core.timing.shapes import SILENCE_DB
from bathyphon.core.typed.spellings import (
    ELSEWHERE,
    LEFT,
    PERCENT,
    RIGHT,
    SIDES,
    SILENT,
    SPELLINGS,
    SWITCH,
    UNITS,
)

Known = Mapping[str, float]
"""Milliseconds of one frame (``f``), metre (``m``) and ``beat``, as far as they are known."""
NOTHING: Known = {}
NUMBER = re.compile(r"([+-]?) ?(\d+(?:[.,]\d+)?|[.,]\d+)(?: ?/ ?(\d+))? ?(.*)", re.ASCII)
GROUPED = re.compile(r"[1-9]\d{0,2},\d{3}", re.ASCII)
MARGIN = 1e-9
"""Share by which a value that was converted may lie beyond a bound that it means."""


class Measured(Protocol):
    """What must be known of a parameter to read a value of it."""

    @property
    def id(self) -> str: ...
    @property
    def label(self) -> str: ...
    @property
    def unit(self) -> str: ...
    @property
    def low(self) -> float: ...
    @property
    def high(self) -> float: ...
    @property
    def scale(self) -> str: ...
    @property
    def default(self) -> float | None: ...
    @property
    def whole(self) -> bool: ...


def read_value(parameter: Measured, text: str, known: Known = NOTHING) -> float:
    """Read a value.

    Parameters
    ----------
    parameter : Measured
        Its label, unit and range; a row of an effect's table, for example.
    text : str
        What was typed: “-3 st”, “0.5 ×”, “12 m”, “silent”, or a bare number in the unit shown.
    known : dict, optional
        Milliseconds of one frame, metre and beat; without them they cannot be typed.

    Returns
    -------
    float
        Within the range, in the parameter's own unit.

    Raises
    ------
    Refused
        With one sentence: what is wrong, and what would be right.

    Examples
    --------
    >>> from bathyphon.core.effects import EFFECTS
    >>> read_value(EFFECTS["echo"].parameter("time_ms"), "1.2 s")
    1200.0
    >>> round(read_value(EFFECTS["echo"].parameter("dry_db"), "50 %"), 2)
    -6.02
    """
    written = plainly(text)
    named = _named(parameter, written)
    if named is not None:
        return named
    found = NUMBER.fullmatch(written)
    if found is None:
        raise _other(parameter, text, known)
    sign, digits, under, word = found.groups()
    if GROUPED.fullmatch(digits):
        one, thousand = digits.replace(",", "."), digits.replace(",", "")
        raise Refused(f"“{digits}” can mean {one} or {thousand}: type one of these", parameter.id)
    over, parts = float(digits.replace(",", ".")), float(under or 1)
    if not parts or not math.isfinite(over) or not math.isfinite(parts):
        raise _other(parameter, text, known)
    number = over / parts
    number = -number if sign == "-" else number
    value, converted = _converted(parameter, number, word.strip(), known, text)
    return _fitting(parameter, value, converted, text)


def shown(parameter: Measured, value: float) -> str:
    """A value with its unit, as it stands on the screen.

    Examples
    --------
    >>> from bathyphon.core.effects import EFFECTS
    >>> shown(EFFECTS["echo"].parameter("dry_db"), -6.0206)
    '−6.0 dB'
    """
    if parameter.unit == "dB" and value <= SILENCE_DB:
        return "silent"
    if parameter.unit == "dB":
        # What is rounded away has no sign.
        return f"{round(value, 1) + 0.0:.1f} dB".replace("-", "−")
    size = abs(value)
    digits = 0 if parameter.whole or size >= 100 else 1 if size >= 10 else 2
    text = f"{value:.{digits}f}"
    text = text.rstrip("0").rstrip(".") if digits else text
    text = "0" if text == "-0" else text.replace("-", "−")
    return (
        f"{text}{parameter.unit}" if parameter.unit == ":1" else f"{text} {parameter.unit}".strip()
    )


def plainly(text: str) -> str:
    """A text in small letters, with single spaces and one kind of minus."""
    return spaced(text).lower()


def spaced(text: str) -> str:
    """A text with single spaces and one kind of minus and colon."""
    return " ".join(text.replace("−", "-").replace("–", "-").replace("∶", ":").split())


def units_of(parameter: Measured, known: Known = NOTHING) -> list[str]:
    """How a parameter's values can be written, as one says it.

    Examples
    --------
    >>> from bathyphon.core.effects import EFFECTS
    >>> units_of(EFFECTS["echo"].parameter("time_ms"), {"f": 40.0})
    ['ms', 's', 'f']
    """
    unit = UNITS.get(parameter.unit)
    measure = unit.measure if unit else ""
    if measure == "time":
        names = {"f": "f", "m": "m", "beat": "beats"}
        there = [name for key, name in names.items() if key in known]
        rest = [name for name in ("ms", "s") if name != parameter.unit]
        first = [parameter.unit, *rest] if parameter.unit != "s" else ["s", "ms"]
        return first + [name for name in there if name not in first]
    also = {"frequency": "kHz", "pitch": "ct" if parameter.unit == "st" else "st"}
    if measure == "level":
        return ["dB", "%"] if _takes_percent(parameter) else ["dB"]
    second = also.get(measure)
    return [parameter.unit, second] if second else [parameter.unit]


def listed(words: Iterable[str], last: str = "or") -> str:
    """Words as a sentence lists them: “ms, s or f”."""
    *first, final = words
    return f"{', '.join(first)} {last} {final}" if first else final


def _named(parameter: Measured, written: str) -> float | None:
    """The value that a word stands for, if it does."""
    if written in SILENT and parameter.unit == "dB" and parameter.low <= SILENCE_DB:
        return max(parameter.low, SILENCE_DB)
    if written in SWITCH and parameter.whole and (parameter.low, parameter.high) == (0.0, 1.0):
        return SWITCH[written]
    if not _has_sides(parameter):
        return None
    if written in SIDES:
        return SIDES[written]
    for side, end in SIDES.items():
        found = re.fullmatch(rf"{side} ?(\d+(?:\.\d+)?)(?: ?%)?", written) or re.fullmatch(
            rf"(\d+(?:\.\d+)?)(?: ?%)? ?{side}", written
        )
        if found and end and float(found[1]) <= RIGHT:
            return math.copysign(float(found[1]), end)
    return None


def _converted(
    parameter: Measured, number: float, word: str, known: Known, text: str
) -> tuple[float, bool]:
    """The number in the parameter's unit, and whether it was typed in another."""
    if not word:
        return number, False
    unit = UNITS.get(parameter.unit)
    if unit is None:
        if word in _own_words(parameter):
            return number, False
        raise _other(parameter, text, known)
    if word in PERCENT and _takes_percent(parameter):
        if number < 0:
            raise _other(parameter, text, known)
        return (20.0 * math.log10(number / 100.0) if number else SILENCE_DB), True
    size = SPELLINGS[unit.measure].get(word)
    own = known.get("f") if parameter.unit == "f" else unit.size
    if unit.measure == "time":
        elsewhere = next((key for key, words in ELSEWHERE.items() if word in words), None)
        if elsewhere is not None and elsewhere == parameter.unit:
            return number, False
        if elsewhere is not None:
            size = known.get(elsewhere)
    if size is None or own is None:
        raise _other(parameter, text, known)
    return (number, False) if size == own else (number * size / own, True)


def _fitting(parameter: Measured, value: float, converted: bool, text: str) -> float:
    """The value, if the parameter can have it."""
    if parameter.whole and not value.is_integer():
        if not converted:
            raise Refused(
                f"{parameter.label} must be a whole number, not “{text.strip()}”", parameter.id
            )
        value = float(round(value))
    room = MARGIN * max(1.0, abs(parameter.low), abs(parameter.high)) if converted else 0.0
    if parameter.low - room <= value <= parameter.high + room:
        return min(parameter.high, max(parameter.low, value))
    low, high = shown(parameter, parameter.low), shown(parameter, parameter.high)
    raise Refused(
        f"{parameter.label} must be between {low} and {high}, not “{text.strip()}”", parameter.id
    )


def _takes_percent(parameter: Measured) -> bool:
    return parameter.unit == "dB" and parameter.scale == "db" and parameter.low < 0


def _has_sides(parameter: Measured) -> bool:
    return parameter.unit == "" and (parameter.low, parameter.high) == (LEFT, RIGHT)


def _own_words(parameter: Measured) -> set[str]:
    """What may stand after a number that has no unit: “8 bits”, “6 repeats”."""
    label = parameter.label.lower()
    words = {label, label.removesuffix("s"), f"{label}s"}
    if parameter.whole:
        words |= {"×", "x", "times"}
    if _has_sides(parameter):
        words |= set(PERCENT)
    return words


def _other(parameter: Measured, text: str, known: Known) -> Refused:
    """The sentence for what is no value of a parameter."""
    label = parameter.label
    such = shown(parameter, parameter.low if parameter.default is None else parameter.default)
    typed = f"“{text.strip()}”"
    if not text.strip():
        sentence = f"{label} needs a value, such as {such}"
    elif parameter.unit == ":1":
        sentence = f"give {label} as a ratio such as {such}, not as {typed}"
    elif UNITS.get(parameter.unit) is None:
        low, high = shown(parameter, parameter.low), shown(parameter, parameter.high)
        sentence = f"give {label} as a number from {low} to {high}, such as {such}, not as {typed}"
    else:
        units = listed(units_of(parameter, known))
        sentence = f"give {label} in {units}, such as {such}, not as {typed}"
    return Refused(sentence, parameter.id)
