"""Each voice on its rung."""

from __future__ import annotations

from bathyphon.core.effects.kit.drawing.held import value
from bathyphon.core.effects.kit.drawing.ladder import interval_name, rungs
from bathyphon.core.effects.kit.drawing.model import Axis, Drawing, Grip, Mark
from bathyphon.core.effects.kit.drawing.view import View


def draw(view: View) -> Drawing:
    """Each voice on its rung, where it stands between left and right."""
    now = view.now
    grips = []
    facts = []
    for i in range(now.entries("voices")):
        name = f"voices.{i}"
        semitones = value(now, f"{name}.semitones")
        own = semitones + 0.01 * value(now, f"{name}.cents")
        place = value(now, f"{name}.pan")
        grips.append(Grip(place, semitones, f"Voice {i + 1}", f"{name}.pan", f"{name}.semitones"))
        facts.append(f"{i + 1}: {interval_name(own)}, {value(now, f'{name}.gain_db'):.1f} dB")
    return Drawing(
        Axis("Pan", "", -100.0, 100.0),
        Axis("Pitch", "st", -24.0, 24.0),
        rungs(-100.0, 100.0),
        (Mark(0.0, 0.0, "direct", "before"),),
        tuple(grips),
        tuple(facts) or ("No voices yet",),
    )
