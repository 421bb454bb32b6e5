"""Ids of new parts of a document."""

from __future__ import annotations

from uuid import uuid4


def new_id(letter: str) -> str:
    """A fresh id that begins with a letter, as the front end makes them."""
    return f"{letter}-{str(uuid4())[:12]}"
