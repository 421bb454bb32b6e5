"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset

PRESETS: tuple[Preset, ...] = (
    Preset("Jet", "Slow and deep.",
           {"level_db": -3.0, "rate_hz": 0.12, "feedback": 60, "delay_ms": 6, "mix": 42},
           words="plane whoosh"),
    Preset("Hollow", "A tube that breathes.",
           {"level_db": -4.5, "rate_hz": 0.3, "feedback": -65, "delay_ms": 3},
           words="tube"),
)  # fmt: skip
