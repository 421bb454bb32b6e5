"""Names of files."""

from __future__ import annotations

import re

# Raised when preparation finds or measures more than before: what is older is prepared anew.
PREPARED = 5


def plain_name(name: str) -> str:
    """A file's name without folders and control characters, as it is shown and stored."""
    last = re.split(r"[/\\]", name)[-1]
    plain = "".join(c for c in last if c.isprintable())[-400:]
    # These are no names of files, but of folders.
    return "file" if plain.strip(". ") == "" else plain


def sound_name(rate: int, stream: int) -> str:
    """What names the prepared parts of one of a file's sounds."""
    return f"{rate}" if stream == 0 else f"{rate}-{stream}"
