"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset, moving

PRESETS: tuple[Preset, ...] = (
    Preset("Left to right", "Across the picture.", {"position": moving((0, -80), (1, 80))}),
    Preset("Right to left", "Back across the picture.",
           {"position": moving((0, 80), (1, -80))}),
    Preset("Left only", "All on the left.", {"left_level": 130, "right_level": 0}),
    Preset("Right only", "All on the right.", {"left_level": 0, "right_level": 130}),
    Preset("Narrow", "Stereo drawn together.", {"width": 35}),
)  # fmt: skip
