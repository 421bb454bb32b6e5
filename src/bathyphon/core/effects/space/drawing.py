"""How each band of the place decays."""

from __future__ import annotations

from bathyphon.core.effects.kit.drawing.decay import decay
from bathyphon.core.effects.kit.drawing.model import Drawing
from bathyphon.core.effects.kit.drawing.view import View


def draw(view: View) -> Drawing:
    """Energy left in three octave bands."""
    return decay(view)
