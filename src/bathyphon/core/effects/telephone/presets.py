"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset

PRESETS: tuple[Preset, ...] = (
    Preset("Landline", "A telephone of the old exchange.",
           {"low_hz": 300, "high_hz": 3400, "bits": 8, "level_db": -4},
           words="phone telephone call old"),
    Preset("Wide line", "A good modern connection.",
           {"low_hz": 50, "high_hz": 7000, "level_db": -2},
           words="mobile video call internet"),
    Preset("Handset", "Cheap and near, a little torn.",
           {"low_hz": 730, "high_hz": 3400, "drive_db": 9, "level_db": -6},
           words="phone cheap mobile"),
    Preset("Two-way radio", "Narrow, hard, with hiss.",
           {"low_hz": 500, "high_hz": 2900, "drive_db": 22, "noise_db": -42, "bits": 6,
            "level_db": -6},
           words="walkie talkie police pilot"),
    Preset("Kitchen set", "A small loudspeaker in another room.",
           {"low_hz": 260, "high_hz": 5200, "drive_db": 5, "level_db": -8},
           words="radio transistor small speaker"),
    Preset("Station horn", "An announcement over the platforms.",
           {"low_hz": 550, "high_hz": 4200, "drive_db": 16, "level_db": -4},
           words="megaphone announcement public address pa platform airport"),
    Preset("Bad connection", "Words just get through.",
           {"low_hz": 420, "high_hz": 2600, "bits": 4, "noise_db": -36, "level_db": -5},
           words="breaking up dropout poor"),
)  # fmt: skip
