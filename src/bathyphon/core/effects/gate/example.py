"""Parameters that let all of its code run; all else is as the table has it."""

from __future__ import annotations

from typing import Any

EXAMPLE: dict[str, Any] = {"threshold_db": -6.0}
