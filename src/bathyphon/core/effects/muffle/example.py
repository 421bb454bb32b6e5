"""Parameters that let all of its code run; all else is as the table has it."""

from __future__ import annotations

from typing import Any

EXAMPLE: dict[str, Any] = {"level_db": -3.0, "width": 90.0, "wobble": 20.0, "low_cut_hz": 60.0}
