"""Names of prepared files."""

from __future__ import annotations

# Raised when preparation finds or measures more than before: what is older is prepared anew.
PREPARED = 4


def sound_name(rate: int, stream: int) -> str:
    """What names the prepared parts of one of a file's sounds."""
    return f"{rate}" if stream == 0 else f"{rate}-{stream}"
