"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset

PRESETS: tuple[Preset, ...] = (
    Preset("Machine voice", "A voice with a metal edge.",
           {"level_db": -0.5, "freq_hz": 48, "mix": 70},
           words="robot cyborg alien"),
    Preset("Bells", "Everything rings.", {"level_db": 2.0, "freq_hz": 740, "mix": 100},
           words="metallic"),
)  # fmt: skip
