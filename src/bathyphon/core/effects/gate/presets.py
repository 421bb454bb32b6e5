"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset

PRESETS: tuple[Preset, ...] = (
    Preset("Between words", "Hiss out of the pauses.", {"threshold_db": -42, "range_db": 18},
           words="noise hiss background dialogue"),
    Preset("Hits only", "Nothing but the loud.",
           {"threshold_db": -28, "range_db": 60, "hold_ms": 40, "release_ms": 60}),
)  # fmt: skip
