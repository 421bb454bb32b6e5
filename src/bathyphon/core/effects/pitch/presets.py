"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset, moving

PRESETS: tuple[Preset, ...] = (
    Preset("A little lower", "More weight in a voice; nobody asks why.",
           {"level_db": -0.5, "semitones": -1.5, "formant_shift": -0.7},
           words="deeper lower voice heavier"),
    Preset("A little higher", "Lighter and younger.",
           {"semitones": 1.5, "formant_shift": 0.7},
           words="higher lighter younger"),
    Preset("Large creature", "An octave down, and as large as that.",
           {"level_db": 1.5, "semitones": -12, "formants": "follow"},
           words="monster giant demon deeper creature beast"),
    Preset("Small creature", "An octave up, and as small as that.",
           {"level_db": -1.0, "semitones": 12, "formants": "follow"},
           words="chipmunk gnome creature squeaky cartoon"),
    Preset("Hidden witness", "Not to be known again, but understood.",
           {"semitones": -4, "formant_shift": -2.5},
           words="disguise anonymous anonymise witness unrecognisable mask"),
    Preset("Deeper chest", "The same note from a larger speaker.",
           {"formant_shift": -3}),
    Preset("Machine on one note", "Every word on the same note.",
           {"tune": 100, "scale": "one note", "key": "A"},
           words="robot monotone"),
    Preset("In tune", "Drawn to the nearest half tone.", {"tune": 100},
           words="correct tune singing"),
    Preset("Sinking", "Falls by a fifth until it ends.",
           {"semitones": moving((0.0, 0), (1.0, -7)), "material": "music"},
           words="fall drop slow down power"),
)  # fmt: skip
