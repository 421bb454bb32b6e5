"""Where one is in a reel, as requests say it."""

from __future__ import annotations

from typing import Annotated

from ninja import Field, Schema

Sample = Annotated[int, Field(ge=0, le=2**47)]
Id = Annotated[str, Field(max_length=80)]


class PlaceSchema(Schema):
    """The playhead, and what is selected."""

    at: Sample = 0
    start: Sample | None = None
    end: Sample | None = None
    track: Id | None = None
    clip: Id | None = None
    other: Id | None = None
    treatment: Id | None = None
