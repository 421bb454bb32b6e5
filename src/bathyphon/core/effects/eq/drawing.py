"""Its response: level against frequency."""

from __future__ import annotations

from bathyphon.core.effects.eq.sound import CUTS
from bathyphon.core.effects.eq.table import TYPES
from bathyphon.core.effects.kit.drawing.held import value
from bathyphon.core.effects.kit.drawing.model import Drawing, Grip
from bathyphon.core.effects.kit.drawing.response import response
from bathyphon.core.effects.kit.drawing.view import View


def draw(view: View) -> Drawing:
    """Response; each band has a grip."""
    now = view.now
    grips = []
    for k in range(now.entries("bands")):
        kind = now.choice(f"bands.{k}.type")
        flat = kind in CUTS or TYPES[kind] == "notch"
        grips.append(
            Grip(
                value(now, f"bands.{k}.freq_hz"),
                0.0 if flat else value(now, f"bands.{k}.gain_db"),
                f"Band {k + 1}",
                f"bands.{k}.freq_hz",
                "" if flat else f"bands.{k}.gain_db",
            )
        )
    return response(view, grips)
