"""Parameters that let all of its code run; all else is as the table has it."""

from __future__ import annotations

from typing import Any

EXAMPLE: dict[str, Any] = {"gain_db": 12.0, "ceiling_db": -12.0}
