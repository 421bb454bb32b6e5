"""What comes out for what goes in."""

from __future__ import annotations

from bathyphon.core.effects.kit.drawing.levels import levels
from bathyphon.core.effects.kit.drawing.model import Drawing
from bathyphon.core.effects.kit.drawing.view import View


def draw(view: View) -> Drawing:
    """Levels out against levels in, and over time what it does to the sound itself."""
    return levels(view)
