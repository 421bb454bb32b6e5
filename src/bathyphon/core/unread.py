"""What data of the wrong shape gets: one sentence in plain words, and the place of the fault."""

from __future__ import annotations

from collections.abc import Iterable

from pydantic import ValidationError
from pydantic_core import ErrorDetails

from bathyphon.core.errors import Refused

IN_WORDS = {
    "missing": "it is missing",
    "extra_forbidden": "it is not known here",
    "dict_type": "it must be an object",
    "model_type": "it must be an object",
    "model_attributes_type": "it must be an object",
    "list_type": "it must be a list",
    "tuple_type": "it must be a list",
    "string_type": "it must be text",
    "bool_type": "it must be true or false",
    "float_type": "it must be a number",
    "int_type": "it must be a whole number",
    "union_tag_invalid": "there is no such kind",
    "union_tag_not_found": "it does not say its kind",
}
SAYS_ALL = ("missing", "extra_forbidden", "union_tag_invalid", "union_tag_not_found")
UNION_ARMS = ("float", "int", "str", "bool")


def cannot_read(
    error: ValidationError, what: str, where: Iterable[str | int] = (), kinds: int = 0
) -> Refused:
    """The first fault that was found.

    Parameters
    ----------
    error : ValidationError
    what : str
        What one calls that which was read: “this preset”.
    where : iterable of str or int
        The place of the whole within its file.
    kinds : int
        How many steps of the fault's place only say which of several kinds was read.

    Returns
    -------
    Refused
        “this preset cannot be read: it must be a list”, at ``presets.0.tags``.
    """
    said, place = first_fault(error, kinds)
    return Refused(f"{what} cannot be read: {said}", ".".join(map(str, (*where, *place))))


def first_fault(error: ValidationError, kinds: int = 0) -> tuple[str, list[str | int]]:
    """The first fault as one says it, “it must be less than or equal to 24, not 90”, and its
    place."""
    first = error.errors(include_url=False)[0]
    # Which of several types was tried last is nothing to the user.
    place = [p for p in first["loc"][kinds:] if p not in UNION_ARMS and "function" not in str(p)]
    return _in_words(first), place


def _in_words(fault: ErrorDetails) -> str:
    kind, value = fault["type"], fault.get("input")
    if kind == "too_short" and fault.get("ctx", {}).get("min_length") == 1:
        return "it must not be empty"
    said = IN_WORDS.get(kind) or _said(fault["msg"])
    if kind in SAYS_ALL or isinstance(value, (dict, list)):
        return said
    return f"{said}, not {value!r}"[:160]


def _said(message: str) -> str:
    message = message.removeprefix("Value error, ")
    for begin, plainly in (("Input should be", "it must be"), ("String should", "it should")):
        if message.startswith(begin):
            return plainly + message[len(begin) :]
    return message[:1].lower() + message[1:]
