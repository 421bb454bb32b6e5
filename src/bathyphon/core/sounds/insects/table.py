"""Crickets: crickets and their kin, on a summer night."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control

TABLE = ModelTable(
    id="insects",
    label="Crickets",
    kind="bed",
    family="Places",
    parameters=(
        control("warmth", "Warmth", "°C", 10.0, 38.0, 22.0, "Warmer nights chirp faster."),
        control("count", "How many", "", 1.0, 40.0, 9.0, "How many sing.", "log", whole=True),
        control("distance", "Distance", "m", 1.0, 60.0, 6.0, "How far off they sit.", "log"),
    ),
    sounds=(
        Shipped("Summer night", {}, "crickets", "Crickets in the grass."),
        Shipped(
            "One cricket",
            {"count": 1.0, "distance": 2.0, "warmth": 18.0},
            "single",
            "One, beside the door.",
        ),
        Shipped(
            "Hot noon",
            {"warmth": 37.0, "count": 36.0, "distance": 14.0},
            "cicadas heat",
            "Trees full of cicadas.",
        ),
    ),
    words="night summer cicada grasshopper meadow field evening insects",
    help="Crickets and their kin, on a summer night.",
    source="Dolbear, “The cricket as a thermometer” (1897): chirps a second follow the warmth; "
    "Bennet-Clark (1989) for their pitch",
)
