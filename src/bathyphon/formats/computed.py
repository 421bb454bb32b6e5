"""Files that hold no samples but what to compute them from: ``NAME.sound``.

Few files are such: the models of sound are imported when there is one.
"""

from __future__ import annotations

import json
from pathlib import Path
from typing import TYPE_CHECKING

from bathyphon.core.errors import Refused

if TYPE_CHECKING:
    from bathyphon.core.sounds.made import Made

FORMAT = "bathyphon-sound"
LARGEST = 64 * 1024
ENDING = ".sound"


def computed(path: Path) -> Made | None:
    """What a file says is to be computed; None if it is of another kind.

    Raises
    ------
    Refused
        If it is such a file, and cannot be understood here.
    """
    try:
        if path.stat().st_size > LARGEST:
            return None
        data = path.read_bytes()
    except OSError:
        return None
    if not data.lstrip().startswith(b"{") or FORMAT.encode() not in data:
        return None
    try:
        document = json.loads(data)
    except (ValueError, RecursionError):
        return None
    if not isinstance(document, dict) or document.get("format") != FORMAT:
        return None
    from bathyphon.core.sounds.made import read_made

    try:
        return read_made(document)
    except Refused as error:
        raise Refused(f"“{path.name}”: {error}") from None


def written(made: Made) -> bytes:
    """The file of a computed sound: equal sounds have equal files."""
    return (
        json.dumps(made.model_dump(), ensure_ascii=False, indent=1, sort_keys=True) + "\n"
    ).encode()
