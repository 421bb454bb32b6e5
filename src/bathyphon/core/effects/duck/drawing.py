"""How far it is turned down while the other track sounds."""

from __future__ import annotations

from bathyphon.core.effects.kit.drawing.levels import over_time
from bathyphon.core.effects.kit.drawing.model import Drawing
from bathyphon.core.effects.kit.drawing.view import View


def draw(view: View) -> Drawing | None:
    """Gain over time; none where nothing is listened to."""
    if view.sound is None or view.side is None or not view.side.any():
        return None
    return over_time(view)
