"""Birds: birds at dawn, in a wood or a garden."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="birds",
    label="Birds",
    kind="bed",
    family="Places",
    parameters=(
        control("count", "How many", "", 1.0, 20.0, 6.0, "How many sing.", "log", whole=True),
        share("busy", "Busy", 40.0, "How often each sings."),
        control("distance", "Distance", "m", 2.0, 100.0, 15.0, "How far off they sit.", "log"),
    ),
    sounds=(
        Shipped("Birds at dawn", {}, "morning", "A hillside wakes."),
        Shipped(
            "One bird",
            {"count": 1.0, "busy": 30.0, "distance": 8.0},
            "single lonely",
            "One, and silence around it.",
        ),
        Shipped(
            "Spring wood",
            {"count": 18.0, "busy": 70.0, "distance": 30.0},
            "forest chorus",
            "All of them at once.",
        ),
    ),
    words="dawn morning forest garden song chirp tweet spring hillside",
    help="Birds at dawn, in a wood or a garden.",
    source="Catchpole & Slater, “Bird Song” (2008): phrases of swept whistles between 2 and 8 kHz",
)
