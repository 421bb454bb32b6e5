"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset

PRESETS: tuple[Preset, ...] = (
    Preset("Under a voice", "Gives way softly.", {"range_db": 10, "release_ms": 800},
           words="music dialogue narration"),
    Preset("Out of the way", "Nearly gone while the other speaks.",
           {"range_db": 24, "release_ms": 400},
           words="music dialogue"),
)  # fmt: skip
