"""What requests carry that does not go through the API's own reader."""

from __future__ import annotations

from typing import TypeVar

from pydantic import BaseModel, ValidationError

from bathyphon.core.unread import cannot_read

Body = TypeVar("Body", bound=BaseModel)


def read_body(model: type[Body], body: bytes, what: str) -> Body:
    """Read a body as JSON.

    Parameters
    ----------
    model : type
        What it is to be.
    body : bytes
    what : str
        What one calls it: “this draft”.

    Raises
    ------
    Refused
        In one sentence, if it is none.
    """
    try:
        return model.model_validate_json(body)
    except ValidationError as error:
        raise cannot_read(error, what) from None


def whole_number(text: str, digits: int = 15) -> int | None:
    """A number as headers and addresses write it; none for anything else.

    Digits of other scripts and raised ones are digits to Python, and no numbers here.
    """
    return int(text) if text.isascii() and text.isdecimal() and len(text) <= digits else None
