"""Leaves: leaves in the wind, from a rustle to a wood in autumn."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="leaves",
    label="Leaves",
    kind="bed",
    family="Weather",
    parameters=(
        share("wind", "Wind", 40.0, "How hard it blows."),
        share("dry", "Dry", 35.0, "How dry the leaves are: drier ones crackle."),
        control("distance", "Distance", "m", 1.0, 80.0, 5.0, "How far off the trees stand.", "log"),
    ),
    sounds=(
        Shipped("Rustling tree", {}, "summer", "A tree in summer."),
        Shipped(
            "Dry leaves",
            {"wind": 25.0, "dry": 95.0, "distance": 1.5},
            "autumn",
            "Leaves on the ground.",
        ),
        Shipped(
            "Edge of the wood",
            {"wind": 70.0, "dry": 20.0, "distance": 45.0},
            "forest",
            "A whole wood in the wind.",
        ),
    ),
    words="rustle trees forest wood grass foliage branches",
    help="Leaves in the wind, from a rustle to a wood in autumn.",
    source="Fégeant, “Wind-induced vegetation noise” (1999): leaves make a broad hump at some "
    "kilohertz",
)
