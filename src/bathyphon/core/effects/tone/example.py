"""Parameters that let all of its code run; all else is as the table has it."""

from __future__ import annotations

from typing import Any

EXAMPLE: dict[str, Any] = {"bass_db": 4.0, "treble_db": -4.0}
