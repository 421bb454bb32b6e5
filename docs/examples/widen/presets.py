"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset, moving

PRESETS: tuple[Preset, ...] = (
    Preset("A little broader", "Hardly noticed until it is switched off.", {"width": 30}),
    Preset("From wall to wall", "Ambience all around.", {"width": 90, "delay_ms": 22}),
    Preset("Opens up", "From a point to the whole width.", {"width": moving((0, 0), (1, 80))}),
)
