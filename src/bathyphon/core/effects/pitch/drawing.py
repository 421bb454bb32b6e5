"""The pitch as a rung of a ladder."""

from __future__ import annotations

from bathyphon.core.effects.kit.drawing.held import value
from bathyphon.core.effects.kit.drawing.ladder import interval_name, rungs
from bathyphon.core.effects.kit.drawing.model import Axis, Drawing, Grip, Mark
from bathyphon.core.effects.kit.drawing.view import View

TONE_HZ = 440.0


def draw(view: View) -> Drawing:
    """One rung: the pitch, and beside it how far the formants are moved."""
    now = view.now
    semitones = value(now, "semitones")
    own = semitones + 0.01 * value(now, "cents")
    formants = value(now, "formant_shift")
    held = now.choice("formants") == 1
    ratio = 2.0 ** (own / 12.0)
    size = 2.0 ** ((formants + (0.0 if held else own)) / 12.0)
    speaker = "as it is" if abs(size - 1.0) < 0.005 else f"{100.0 / size:.0f} % of the size"
    return Drawing(
        Axis("Formants", "st", -12.0, 12.0),
        Axis("Pitch", "st", -24.0, 24.0),
        rungs(-12.0, 12.0),
        (Mark(0.0, 0.0, "direct", "before"),),
        (Grip(formants, semitones, "Pitch and formants", "formant_shift", "semitones"),),
        (
            f"{interval_name(own)}: {TONE_HZ:.0f} Hz becomes {TONE_HZ * ratio:.1f} Hz",
            f"The speaker: {speaker}",
        ),
    )
