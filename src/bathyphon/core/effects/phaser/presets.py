"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset

PRESETS: tuple[Preset, ...] = (
    Preset("Haze", "Slow and gentle.",
           {"level_db": -3.0, "rate_hz": 0.15, "swing": 60, "feedback": 10}),
    Preset("Dizzy", "Fast and sharp.",
           {"level_db": -4.0, "rate_hz": 1.6, "swing": 90, "feedback": 65},
           words="drunk spin"),
)  # fmt: skip
