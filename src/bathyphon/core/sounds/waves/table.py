"""Waves: waves on a shore: each swells, breaks and runs out."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="waves",
    label="Waves",
    kind="bed",
    family="Water",
    parameters=(
        share("size", "Size", 45.0, "How large the waves are."),
        control("period", "Period", "s", 1.5, 16.0, 7.0, "From one wave to the next.", "log"),
        control("distance", "Distance", "m", 1.0, 200.0, 12.0, "How far off they break.", "log"),
    ),
    sounds=(
        Shipped("Beach", {}, "sea surf", "Waves on sand."),
        Shipped(
            "Lake shore",
            {"size": 8.0, "period": 2.2, "distance": 2.0},
            "lapping pool edge",
            "Small waves that lap at stones.",
        ),
        Shipped(
            "Storm on the coast",
            {"size": 100.0, "period": 11.0, "distance": 40.0},
            "breakers rough sea",
            "Breakers one after another.",
        ),
        Shipped(
            "Sea behind the dunes",
            {"size": 60.0, "period": 9.0, "distance": 180.0},
            "distant ocean",
            "Felt rather than heard.",
        ),
    ),
    words="sea shore beach surf ocean coast lake lapping",
    help="Waves on a shore: each swells, breaks and runs out.",
    source="Carey & Fitzgerald in “Natural physical sources of underwater sound” (1993): "
    "breaking waves fall by about 5 dB an octave; Farnell, “Designing Sound” (2010)",
)
