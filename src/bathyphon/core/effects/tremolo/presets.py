"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset

PRESETS: tuple[Preset, ...] = (
    Preset("Rotor", "Blades overhead.", {"rate_hz": 11, "swing": 85, "shape": "triangle"},
           words="helicopter chopper"),
    Preset("Pulse", "Slow, like breath.", {"rate_hz": 0.8, "swing": 60},
           words="breathe heartbeat"),
    Preset("Chopped", "On and off.", {"rate_hz": 6, "swing": 100, "shape": "square"},
           words="stutter gate"),
)  # fmt: skip
