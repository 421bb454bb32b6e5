"""Slowed and spacious."""

from __future__ import annotations

from bathyphon.core.recipes.kit.table import RecipeTable, ask

TABLE = RecipeTable(
    id="slowed",
    label="Slowed and spacious",
    place=70,
    needs="clip",
    questions=(
        ask("speed", "Speed", "%", 50.0, 95.0, 82.0, "Its pitch sinks with it, like a tape."),
        ask("space", "Space", "%", 0.0, 100.0, 45.0, "How large the room around it is."),
    ),
    words="slow song reverb tape dream music slower nostalgia",
    help="A song played slower and lower, in a large room.",
)
