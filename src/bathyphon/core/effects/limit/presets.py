"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset

PRESETS: tuple[Preset, ...] = (
    Preset("Safe for delivery", "Peaks at −1 dB.", {"ceiling_db": -1},
           words="normalise normalize peak true peak broadcast"),
    Preset("Louder", "6 dB more, peaks held.", {"ceiling_db": -1, "gain_db": 6},
           words="maximise"),
)  # fmt: skip
