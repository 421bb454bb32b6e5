"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset

PRESETS: tuple[Preset, ...] = (
    Preset("Old sampler", "Grainy, but all there.", {"bits": 8, "rate_hz": 11025},
           words="retro 8 bit"),
    Preset("Toy", "Crackling plastic.", {"bits": 5, "rate_hz": 6000},
           words="8 bit game cheap"),
)  # fmt: skip
