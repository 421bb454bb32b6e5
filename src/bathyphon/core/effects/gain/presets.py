"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset

PRESETS: tuple[Preset, ...] = (
    Preset("A step back", "6 dB quieter.", {"level_db": -6},
           words="quieter softer down"),
    Preset("Under the voice", "12 dB quieter: heard, not listened to.", {"level_db": -12},
           words="quieter background bed"),
    Preset("A little forward", "3 dB louder.", {"level_db": 3},
           words="louder up"),
    Preset("Nothing", "Silent while it lasts.", {"level_db": -96},
           words="mute silence silent"),
)  # fmt: skip
