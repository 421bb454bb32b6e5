"""Around the head."""

from __future__ import annotations

from bathyphon.core.recipes.kit.table import RecipeTable, ask

TABLE = RecipeTable(
    id="around",
    label="Around the head",
    place=140,
    needs="markers",
    questions=(
        ask(
            "turn",
            "Turns by",
            "°",
            -360.0,
            360.0,
            90.0,
            "From one marker to the next; below 0 the other way round.",
        ),
        ask("distance", "Distance", "m", 0.3, 20.0, 1.2, "How far from the head.", "log"),
        ask(
            "sharp",
            "Sharp",
            "%",
            0.0,
            100.0,
            30.0,
            "0 glides all the time, 100 jumps at each marker.",
        ),
    ),
    words="orbit rotate headphones spin circle surround markers",
    help="The sound goes around the head and reaches its next place at each marker.",
)
