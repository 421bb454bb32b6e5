"""What an editor is told beside an effect's controls."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Advice:
    """A short page of help.

    Parameters
    ----------
    listen : str
        What to listen for.
    start : str
        Values that practitioners start from.
    avoid : str
        When not to use it, or what to do instead.
    """

    listen: str
    start: str
    avoid: str
