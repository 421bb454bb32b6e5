"""Ranges of what belongs to no effect."""

from __future__ import annotations

LEVELS = (-200.0, 24.0)
SLOWEST, FASTEST = 10.0, 400.0
"""Percent of a clip's speed while it does not move; where it moves it may come to a stop."""
WIDEST_ST = 24.0
"""Semitones up or down."""
WIDEST_CENTS = 100.0
WIDEST_FORMANTS = 12.0
"""Semitones."""
