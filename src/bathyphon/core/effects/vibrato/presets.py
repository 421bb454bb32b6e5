"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset

PRESETS: tuple[Preset, ...] = (
    Preset("Worn tape", "Slow and uneven to the ear.", {"rate_hz": 0.9, "swing": 18},
           words="wow flutter cassette"),
    Preset("Shaken", "A nervous voice.", {"rate_hz": 7, "swing": 55},
           words="nervous shiver afraid"),
    Preset("Drowsy", "Wide and slow.", {"rate_hz": 1.4, "swing": 90},
           words="drunk drugged sleepy"),
)  # fmt: skip
