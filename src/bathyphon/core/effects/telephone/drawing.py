"""Its response: level against frequency."""

from __future__ import annotations

from bathyphon.core.effects.kit.drawing.held import value
from bathyphon.core.effects.kit.drawing.model import Drawing, Grip
from bathyphon.core.effects.kit.drawing.response import response
from bathyphon.core.effects.kit.drawing.view import View
from bathyphon.core.effects.telephone.table import BITS_OFF


def draw(view: View) -> Drawing:
    """Response without noise; its grips are the edges of the line."""
    low, high = value(view.now, "low_hz"), value(view.now, "high_hz")
    return response(
        view,
        [Grip(low, -3.0, "From", "low_hz"), Grip(high, -3.0, "To", "high_hz")],
        clean={"noise_db": -96.0, "bits": BITS_OFF},
    )
