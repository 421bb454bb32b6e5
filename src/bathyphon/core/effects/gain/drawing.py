"""What becomes of a full wave."""

from __future__ import annotations

from bathyphon.core.effects.kit.drawing.levels import transfer
from bathyphon.core.effects.kit.drawing.model import Drawing
from bathyphon.core.effects.kit.drawing.view import View


def draw(view: View) -> Drawing:
    """Its transfer curve."""
    return transfer(view)
