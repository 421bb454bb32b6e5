"""Parameters that let all of its code run; all else is as the table has it."""

from __future__ import annotations

from typing import Any

EXAMPLE: dict[str, Any] = {
    "glide": "fade",
    "time_ms": {"keyframes": [{"at": 0, "value": 120.0}, {"at": 1200, "value": 90.0}]},
    "low_cut_hz": 100.0,
    "high_cut_hz": 6000.0,
}
