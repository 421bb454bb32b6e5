"""Its comb: level of each side against frequency."""

from __future__ import annotations

from bathyphon.core.effects.kit.drawing.model import Drawing
from bathyphon.core.effects.kit.drawing.response import response
from bathyphon.core.effects.kit.drawing.view import View


def draw(view: View) -> Drawing:
    """Response as it stands at this moment; where one side has a hill, the other has a valley."""
    return response(view, told=False)
