"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset

PRESETS: tuple[Preset, ...] = (
    Preset("Warm tape", "A little denser.", {"level_db": -4.0, "amount_db": 8, "tone_hz": 12000},
           words="saturation analogue"),
    Preset("Shouted", "A small microphone, too close.",
           {"level_db": -8.0, "amount_db": 26, "shape": "hard", "tone_hz": 5000},
           words="megaphone"),
    Preset("Torn cone", "A loudspeaker that has had enough.",
           {"level_db": -9.0, "amount_db": 20, "shape": "fold", "tone_hz": 3500, "mix": 80},
           words="broken speaker blown"),
)  # fmt: skip
