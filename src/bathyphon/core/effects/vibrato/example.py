"""Parameters that let all of its code run; all else is as the table has it."""

from __future__ import annotations

from typing import Any

EXAMPLE: dict[str, Any] = {
    "swing": {"keyframes": [{"at": 0, "value": 20.0}, {"at": 2400, "value": 60.0}]},
}
