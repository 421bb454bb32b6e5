"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset, moving

PRESETS: tuple[Preset, ...] = (
    Preset("Left to right", "Across the picture.", {"position": moving((0, -80), (1, 80))},
           words="across move"),
    Preset("Right to left", "Back across the picture.",
           {"position": moving((0, 80), (1, -80))},
           words="across move"),
    Preset("Left only", "All on the left.", {"left_level": 130, "right_level": 0},
           words="hard left"),
    Preset("Right only", "All on the right.", {"left_level": 0, "right_level": 130},
           words="hard right"),
    Preset("Narrow", "Stereo drawn together.", {"width": 50},
           words="mono narrower"),
)  # fmt: skip
