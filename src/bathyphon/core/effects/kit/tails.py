"""What tails agree on."""

from __future__ import annotations

TAIL_FALL_DB = 90.0
TAIL_LIMIT_SECONDS = 120
