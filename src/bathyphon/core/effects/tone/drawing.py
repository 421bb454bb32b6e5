"""Its response: level against frequency."""

from __future__ import annotations

from bathyphon.core.effects.kit.drawing.held import value
from bathyphon.core.effects.kit.drawing.model import Drawing, Grip
from bathyphon.core.effects.kit.drawing.response import response
from bathyphon.core.effects.kit.drawing.view import View
from bathyphon.core.effects.tone.sound import BASS_HZ, TREBLE_HZ


def draw(view: View) -> Drawing:
    """Response; its grips are bass and treble."""
    bass, treble = value(view.now, "bass_db"), value(view.now, "treble_db")
    return response(
        view,
        [
            Grip(0.4 * BASS_HZ, bass, "Bass", "", "bass_db"),
            Grip(2.5 * TREBLE_HZ, treble, "Treble", "", "treble_db"),
        ],
    )
