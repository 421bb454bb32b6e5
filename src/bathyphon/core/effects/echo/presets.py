"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset

PRESETS: tuple[Preset, ...] = (
    Preset("Called across", "A call and the far wall's answer.",
           {"time_ms": 500, "feedback": 18, "high_cut_hz": 4500, "mix": 45},
           words="canyon mountain valley shout"),
    Preset("Last word", "A spoken line repeats and fades.",
           {"time_ms": 305, "feedback": 50, "dry_db": -2.5, "mix": 50, "level_db": 2.5},
           words="delay throw dialogue fade"),
    Preset("Slap", "One hard wall close by.",
           {"time_ms": 120, "repeats": 1, "drop_db": 6, "mix": 45},
           words="slapback wall short rockabilly"),
    Preset("Short slaps", "Quick repeats, each three quarters of the last.",
           {"time_ms": 250, "feedback": 75, "mix": 45, "level_db": -3.5},
           words="slapback repeats stutter"),
    Preset("To and fro", "From side to side.",
           {"time_ms": 360, "feedback": 55, "cross": 100, "mix": 50},
           words="ping pong side left right bounce"),
    Preset("Six copies", "Six copies, each 5 dB down, duller and thinner.",
           {"time_ms": 280, "repeats": 6, "drop_db": 5, "low_cut_hz": 160,
            "high_cut_hz": 5000, "mix": 50},
           words="copies repeats layers"),
    Preset("Down the shaft", "Slow, dark, for a long time.",
           {"time_ms": 780, "feedback": 70, "high_cut_hz": 1600, "mix": 50,
            "level_db": -4.0},
           words="well mine deep dark"),
)  # fmt: skip
