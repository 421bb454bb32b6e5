"""Thunder: thunder, from a crack overhead to a roll far away."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="thunder",
    label="Thunder",
    kind="hit",
    family="Weather",
    parameters=(
        control(
            "distance", "Distance", "m", 100.0, 8000.0, 1500.0, "How far off it struck.", "log"
        ),
        share("roll", "Roll", 55.0, "How long it rolls on."),
    ),
    sounds=(
        Shipped("Thunder", {}, "storm", "A stroke some way off."),
        Shipped(
            "Thunder overhead",
            {"distance": 150.0, "roll": 40.0},
            "crack close",
            "It strikes beside you.",
        ),
        Shipped(
            "Far thunder",
            {"distance": 7000.0, "roll": 85.0},
            "distant rumble",
            "It rolls behind the hills.",
        ),
    ),
    words="lightning storm rumble roll crack weather",
    help="Thunder, from a crack overhead to a roll far away.",
    source="Few, “Power spectrum of thunder” (1969) and Ribner & Roy, “Acoustics of thunder: a "
    "quasilinear model for tortuous lightning” (1982): a crooked channel heard piece by "
    "piece",
)
