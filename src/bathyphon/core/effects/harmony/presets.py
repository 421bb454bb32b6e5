"""Starting points; their values are common practice."""

from __future__ import annotations

from typing import Any

from bathyphon.core.effects.kit.preset import Preset


def voice(semitones: float, gain_db: float = -6.0, pan: float = 0.0, **more: Any) -> dict[str, Any]:
    return {"semitones": semitones, "gain_db": gain_db, "pan": pan, **more}


PRESETS: tuple[Preset, ...] = (
    Preset("Double", "The same line sung twice, to both sides.",
           {"level_db": -2.0,
            "voices": [voice(0, -3, -70, cents=-8, delay_frames=1, low_cut_hz=150),
                       voice(0, -3, 70, cents=8, delay_ms=25, low_cut_hz=150)]},
           words="doubling thicken"),
    Preset("Third above", "A second voice, four semitones up.",
           {"level_db": -0.5, "voices": [voice(4, -5, 25, delay_ms=15, low_cut_hz=160)]},
           words="harmony"),
    Preset("Third and fifth", "A chord of three.",
           {"voices": [voice(4, -6, -45, delay_ms=15, low_cut_hz=160),
                       voice(7, -7, 45, delay_ms=28, low_cut_hz=180)]},
           words="chord"),
    Preset("Choir", "Many voices, none of them alone.",
           {"level_db": -3.0,
            "voices": [voice(0, -5, -80, cents=-11, delay_frames=1, high_cut_hz=9000),
                       voice(0, -5, 80, cents=10, delay_ms=31, high_cut_hz=9000),
                       voice(12, -12, -40, delay_ms=22, high_cut_hz=7000),
                       voice(-12, -9, 40, delay_ms=18, low_cut_hz=90),
                       voice(7, -12, -15, delay_ms=44, high_cut_hz=7000),
                       voice(4, -12, 15, delay_ms=52, high_cut_hz=7000)]},
           words="crowd many voices group"),
    Preset("Creature", "One octave below and one above, both as large as they sound.",
           {"level_db": -2.0, "dry_db": -6, "formants": "follow",
            "voices": [voice(-12, 0), voice(12, -10), voice(-7, -8)]},
           words="monster demon beast"),
    Preset("Machine", "Two voices that never meet.",
           {"dry_db": -96, "formants": "follow",
            "voices": [voice(-3, 0, cents=-50), voice(5, -6, cents=100)]},
           words="robot"),
    Preset("Third in C major", "The voice above goes by the scale's own steps.",
           {"level_db": -0.5, "scale": "major", "key": "C",
            "voices": [voice(0, -5, 30, degree=2, delay_ms=15, low_cut_hz=160)]}),
    Preset("Octave below", "Weight under a voice.",
           {"level_db": -2.0, "voices": [voice(-12, -6, high_cut_hz=6000)]},
           words="deeper weight sub"),
)  # fmt: skip
