"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset

PRESETS: tuple[Preset, ...] = (
    Preset("Two of them", "One voice becomes a few.",
           {"level_db": -1.5, "rate_hz": 0.5, "mix": 32}),
    Preset("Choir", "Wide and soft.",
           {"level_db": -2.5, "rate_hz": 0.35, "swing": 55, "delay_ms": 28, "mix": 60},
           words="crowd"),
)  # fmt: skip
