"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset

PRESETS: tuple[Preset, ...] = (
    Preset("Jet", "Slow and deep.", {"rate_hz": 0.12, "feedback": 70, "delay_ms": 6},
           words="plane whoosh"),
    Preset("Hollow", "A tube that breathes.", {"rate_hz": 0.3, "feedback": -65, "delay_ms": 3},
           words="tube"),
)  # fmt: skip
