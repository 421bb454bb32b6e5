"""The way around the head, seen from above."""

from __future__ import annotations

import numpy as np

from bathyphon.core.effects.kit.drawing.held import value
from bathyphon.core.effects.kit.drawing.model import (
    MOST_POINTS,
    Axis,
    Drawing,
    Grip,
    Line,
    Mark,
    line,
)
from bathyphon.core.effects.kit.drawing.view import View
from bathyphon.core.effects.orbit.sound import later_by, shadow_db


def draw(view: View) -> Drawing:
    """The path over its owner's length, seen from above, and where the sound is now."""
    settings, now = view.settings, view.now
    length = settings.length or 1
    moves = settings.curves["azimuth"].moves or settings.curves["distance"].moves
    azimuth, distance = value(now, "azimuth"), value(now, "distance")
    lines: list[Line] = []
    reach = distance
    if moves:
        # Single samples: the owner may be two hours long.
        places = np.linspace(0, length - 1, MOST_POINTS).astype(int).tolist()
        angle, far = (
            np.array([settings.values(id, place, 1)[0] for place in places])
            for id in ("azimuth", "distance")
        )
        angle = np.radians(angle)
        reach = max(reach, float(far.max()))
        lines.append(line(far * np.sin(angle), far * np.cos(angle)))
    turn = np.radians(np.linspace(0.0, 360.0, 73))
    head = 0.09 * reach
    lines.append(line(head * np.sin(turn), head * np.cos(turn), "guide"))
    nose = np.array([-0.3, 0.0, 0.3]) * head
    lines.append(line(nose, np.array([0.95, 1.35, 0.95]) * head, "guide"))
    x, y = distance * np.sin(np.radians(azimuth)), distance * np.cos(np.radians(azimuth))
    later = float(later_by(np.array([azimuth]))[0]) * 1000.0
    ear = "left" if later > 0.0 else "right"
    shade = float(shadow_db(np.array([azimuth]))[0])
    facts = ["Both ears alike"]
    if abs(later) > 0.005:
        facts = [f"The {ear} ear hears {abs(later):.2f} ms later and {shade:.0f} dB duller"]
    grips: tuple[Grip, ...] = ()
    if not moves:
        grips = (Grip(float(x), float(y), "Direction and distance", "azimuth", "distance"),)
    edge = 1.15 * reach
    return Drawing(
        Axis("Right", "m", -edge, edge),
        Axis("Front", "m", -edge, edge),
        tuple(lines),
        (Mark(float(x), float(y), "now"),),
        grips,
        tuple(facts),
        round=True,
    )
