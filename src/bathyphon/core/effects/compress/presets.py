"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset

PRESETS: tuple[Preset, ...] = (
    Preset("Even voice", "Quiet words come up.",
           {"threshold_db": -24, "ratio": 3, "makeup_db": 4, "attack_ms": 8},
           words="dialogue level"),
    Preset("Pressed", "Everything equally near.",
           {"threshold_db": -32, "ratio": 8, "makeup_db": 11.5, "attack_ms": 2},
           words="squash loud"),
)  # fmt: skip
