"""Its response: level against frequency."""

from __future__ import annotations

from bathyphon.core.effects.kit.drawing.held import value
from bathyphon.core.effects.kit.drawing.model import Drawing, Grip
from bathyphon.core.effects.kit.drawing.response import response
from bathyphon.core.effects.kit.drawing.view import View


def draw(view: View) -> Drawing:
    """Response; its grip is the high cut with the level."""
    cut, level = value(view.now, "high_cut_hz"), value(view.now, "level_db")
    return response(view, [Grip(cut, level, "High cut and level", "high_cut_hz", "level_db")])
