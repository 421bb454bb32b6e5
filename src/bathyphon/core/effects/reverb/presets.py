"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset

PRESETS: tuple[Preset, ...] = (
    Preset("Small chamber", "Close stone walls around one voice.",
           {"level_db": -1.5,
            "decay_s": 0.6, "size": 35, "predelay_ms": 3, "treble_decay": 0.7, "mix": 30},
           words="room stone cell"),
    Preset("Furnished", "A lived-in room: short and soft.",
           {"level_db": -1.5, "decay_s": 0.35, "size": 40, "treble_decay": 0.45, "mix": 28},
           words="room living flat bedroom office"),
    Preset("Tiled", "Hard and bright, every step answers.",
           {"level_db": -2.0, "decay_s": 1.1, "size": 30, "treble_decay": 1.0, "bass_decay": 0.8,
            "diffusion": 70, "mix": 35},
           words="bathroom shower kitchen pool"),
    Preset("Long nave", "Stone, height and time.",
           {"level_db": -3.5, "decay_s": 5.5, "size": 170, "predelay_ms": 35, "treble_decay": 0.5,
            "bass_decay": 1.3, "mix": 40},
           words="church cathedral"),
    Preset("Great chamber", "A cave as large as a hall.",
           {"level_db": -3.0, "decay_s": 3.6, "size": 150, "predelay_ms": 24, "treble_decay": 0.4,
            "bass_decay": 1.5, "early_db": -6, "diffusion": 65, "mix": 42},
           words="hall cave big large"),
    Preset("Song's end", "The last beat rings on over the cut.",
           {"level_db": -2.5,
            "decay_s": 7.0, "size": 140, "predelay_ms": 8, "treble_decay": 0.6, "mix": 55},
           words="ring out tail music cut last note"),
    Preset("Behind the voice", "A room that one only misses when it is gone.",
           {"decay_s": 1.2, "size": 80, "predelay_ms": 25, "low_cut_hz": 180,
            "high_cut_hz": 6500, "mix": 14},
           words="subtle room dialogue speech"),
    Preset("Endless", "No walls any more.",
           {"level_db": -2.0,
            "decay_s": 20, "size": 200, "treble_decay": 0.8, "bass_decay": 0.9, "mix": 60},
           words="infinite dream heaven vast"),
)  # fmt: skip
