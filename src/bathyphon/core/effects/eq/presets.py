"""Starting points; their values are common practice."""

from __future__ import annotations

from typing import Any

from bathyphon.core.effects.kit.preset import Preset


def band(kind: str, freq_hz: float, gain_db: float = 0.0, **more: Any) -> dict[str, Any]:
    return {"type": kind, "freq_hz": freq_hz, "gain_db": gain_db, **more}


PRESETS: tuple[Preset, ...] = (
    Preset("Voice up", "Rumble out, words forward.",
           {"level_db": 2.0,
            "bands": [band("low_cut", 90, slope="24"), band("peak", 260, -3, q=1.0),
                      band("peak", 3200, 3, q=0.9)]},
           words="dialogue speech clarity presence"),
    Preset("Make way for words", "A dip in music where speech lives.",
           {"bands": [band("peak", 1800, -5, q=0.7)]},
           words="music under dialogue dip"),
    Preset("No hum", "Mains hum and its overtones.",
           {"bands": [band("notch", f, q=12.0) for f in (50, 100, 150, 200)]},
           words="mains buzz 50hz 60hz"),
    Preset("Thin", "Nothing below, nothing above.",
           {"level_db": 3.0,
            "bands": [band("low_shelf", 300, -7), band("high_shelf", 4500, -12)]},
           words="tinny narrow small"),
    Preset("Four bands", "Neutral, to start from.",
           {"bands": [band("low_shelf", 120), band("peak", 500), band("peak", 2500),
                      band("high_shelf", 7000)]},
           words="flat neutral"),
)  # fmt: skip
