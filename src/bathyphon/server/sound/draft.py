"""What a hand is doing: edits that are not committed, seen and heard while they are made.

One question brings all that a window shows of them. The sound comes first, in a frame of its own,
then what takes longer: what follows from the edits, and the drawing of an effect.
"""

from __future__ import annotations

import json
import struct
from collections.abc import Callable
from typing import Any
from uuid import UUID

from pydantic import BaseModel, ConfigDict, Field

from bathyphon.core.errors import Refused
from bathyphon.server.bodies import read_body
from bathyphon.server.reels.derived import derived_with
from bathyphon.server.reels.head import Head
from bathyphon.server.sound.drafted import Drafted
from bathyphon.server.sound.drawing import drawing_of
from bathyphon.server.sound.engine import Asked, Block, State, engine_of
from bathyphon.server.sound.media import PreparedMedia

LONGEST_SECONDS = 1
MOST_RANGES = 3
Sample = Field(ge=0, le=2**47)


class DrawnEffect(BaseModel):
    """An effect whose drawing is in view, and the sample of the reel at which it is drawn."""

    model_config = ConfigDict(extra="forbid")
    owner: str
    effect: str
    at: int = Sample


class Wanted(Drafted):
    """What a window wants to know of its draft, beside that itself.

    Parameters
    ----------
    number : int
        The question's own, which its answers bear.
    sound : list of (int, int)
        Stretches of the reel that are about to be played, in samples.
    drawing : DrawnEffect, optional
    derived : bool
        Whether tails, lengths and speeds are wanted, too.
    revision : int, optional
        Of the reel, as the window knows it: with at least that it is answered.
    instead : int, optional
        Number of a question that needs no answer any more, if it has none yet.
    """

    number: int = Field(0, ge=0)
    sound: list[tuple[int, int]] = Field([], max_length=MOST_RANGES)
    drawing: DrawnEffect | None = None
    derived: bool = False
    revision: int | None = Field(None, ge=0)
    instead: int | None = Field(None, ge=0)


def read_wanted(body: bytes) -> Wanted:
    """Read a question; refused in one sentence, if it is none."""
    return read_body(Wanted, body, "this draft")


def sounding(
    reel: UUID, head: Head, media: PreparedMedia, wanted: Wanted, still: Callable[[], bool]
) -> bytes:
    """The first frame: the draft's patch, and the sound of the stretches that are wanted.

    Raises
    ------
    Superseded
        If it is not wanted any more, as ``still`` says.
    """
    asked = Asked(head, media, "treated", wanted.commands, still)
    engine = engine_of(reel, head.reel.sample_rate)
    state = engine.state(asked)
    most = LONGEST_SECONDS * head.reel.sample_rate
    blocks: list[tuple[int, Block]] = []
    for start, stop in wanted.sound:
        if not 0 <= stop - start <= most:
            raise Refused("expected a stretch of at most a second", "sound")
        blocks.append((start, engine.slice(asked, start, stop)))
    said = {
        "number": wanted.number,
        "revision": head.revision,
        "patch": state.patch,
        "length": state.playing.graph.length,
        "sound": [{"start": start, "samples": block.samples} for start, block in blocks],
    }
    return _frame(said, b"".join(block.pcm for _, block in blocks))


def showing(reel: UUID, head: Head, media: PreparedMedia, wanted: Wanted) -> bytes:
    """The second frame: what follows from the draft, and the drawing that is in view."""
    asked = Asked(head, media, "treated", wanted.commands)
    state: State = engine_of(reel, head.reel.sample_rate).state(asked)
    said: dict[str, Any] = {"number": wanted.number, "drawing": None, "derived": None}
    if wanted.derived:
        said["derived"] = derived_with(media, state.head.reel, state.playing.graph)
    if wanted.drawing:
        view = wanted.drawing
        try:
            found = drawing_of(media, state.head, view.owner, view.effect, view.at)
        except Refused:
            # The draft has taken it away.
            found = None
        said["drawing"] = found.plain() if found else None
    return _frame(said)


def refused(number: int, error: Refused) -> bytes:
    """The only frame of what cannot be done: why, in one sentence."""
    return _frame({"number": number, "refused": error.message, "where": error.where})


def _frame(said: dict[str, Any], sound: bytes = b"") -> bytes:
    """Bytes of JSON, JSON, and planar float32, which begins at a multiple of four bytes."""
    text = json.dumps(said, separators=(",", ":")).encode()
    text += b" " * (-len(text) % 4)
    return struct.pack("<I", len(text)) + text + sound
