"""Where a treatment at work stands, and what of its way is kept."""

from __future__ import annotations

from dataclasses import dataclass

from bathyphon.core.engine.running import Running

NEAR = 4
"""Chunks before the one that is wanted whose states are kept, too: an edit may begin there."""
MOST_APART = 32
"""In how many chunks at least one state is kept for as long as can be."""
AGAIN_SECONDS = 0.08
"""What lies between two of them is worked out again in about this time."""
QUICK_SECONDS, SLOW_SECONDS = 0.002, 0.008
"""What takes less is done in pieces twice as large, what takes more in pieces half as large."""


@dataclass
class Place:
    """Where a running treatment stands: before which chunk, reached through which key.

    ``every`` says in how many chunks one state of it is kept, and ``bound`` which chunk it is on
    its way to; ``piece`` is how many samples it is given at a time, and ``took`` in how many
    seconds it went through its last chunk.
    """

    running: Running
    chunk: int = -1
    key: bytes = b""
    every: int = 1
    bound: int = 0
    piece: int = 0
    # Before it is known, and without a clock: of such one state in eight lasts.
    took: float = 0.009

    @property
    def apart(self) -> int:
        """In how many chunks one of its states shall last: in the fewer, the slower it is."""
        apart = self.every
        while apart < MOST_APART and 2 * apart * self.took < AGAIN_SECONDS:
            apart *= 2
        return apart

    def leave(self) -> None:
        """It is nowhere until it has arrived: what is half done must not be gone on from."""
        self.chunk = -1


def next_piece(piece: int, took: float, least: int, most: int) -> int:
    """How many samples to give at a time after ``piece`` of them took so many seconds.

    Each piece costs something of its own, however short it is; but only between two of them can it
    be asked whether the result is still wanted.
    """
    if took < QUICK_SECONDS:
        return min(2 * piece, most)
    return max(piece // 2, least) if took > SLOW_SECONDS else piece
