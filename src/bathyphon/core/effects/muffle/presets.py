"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset

PRESETS: tuple[Preset, ...] = (
    Preset("Just under", "Ears below the surface, the world still near.",
           {"high_cut_hz": 900, "level_db": -4, "wobble": 15},
           words="shallow surface underwater"),
    Preset("Deep", "Far down: weight and little else.",
           {"high_cut_hz": 320, "level_db": -9, "resonance": 1.1, "wobble": 10, "width": 60},
           words="underwater depth sea"),
    Preset("Moving water", "The surface wavers overhead.",
           {"high_cut_hz": 700, "level_db": -6, "wobble": 55, "wobble_hz": 0.7},
           words="waves underwater"),
    Preset("Next door", "Music through a wall.",
           {"high_cut_hz": 260, "level_db": -8, "width": 30},
           words="neighbour wall party flat"),
    Preset("In the hood", "A helmet, a hood, hands over the ears.",
           {"high_cut_hz": 1500, "low_cut_hz": 120, "resonance": 1.6, "level_db": -3},
           words="helmet earmuffs mask"),
    Preset("Plunge", "What is heard the moment one goes under.",
           {"high_cut_hz": 420, "level_db": -12, "resonance": 1.3},
           words="dive jump underwater"),
    Preset("Car outside", "Bass from a closed car.",
           {"high_cut_hz": 150, "level_db": -2, "width": 20},
           words="parked street bass"),
)  # fmt: skip
