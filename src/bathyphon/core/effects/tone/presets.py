"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset

PRESETS: tuple[Preset, ...] = (
    Preset("Warmer", "More below, less above.", {"level_db": -2.5, "bass_db": 4, "treble_db": -3},
           words="warm dark"),
    Preset("Clearer", "Less below, more above.", {"level_db": 2.0, "bass_db": -5, "treble_db": 4},
           words="bright brighter clear"),
    Preset("Bass only", "Treble down to the stop.",
           {"level_db": -5.0, "bass_db": 7.5, "treble_db": -24},
           words="bass sub thump"),
)  # fmt: skip
