"""Names of the waves that oscillators make."""

from __future__ import annotations

SHAPES = ("sine", "triangle", "square")
