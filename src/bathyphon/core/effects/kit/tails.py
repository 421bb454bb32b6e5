"""What tails agree on."""

from __future__ import annotations

TAIL_FALL_DB = 90.0
TAIL_LIMIT_SECONDS = 120
"""No effect, no chain and no fixed ring-out goes on for longer."""
