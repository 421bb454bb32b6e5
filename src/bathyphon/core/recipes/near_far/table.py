"""Near to far."""

from __future__ import annotations

from bathyphon.core.recipes.kit.table import RecipeTable, ask

TABLE = RecipeTable(
    id="near_far",
    label="Near to far",
    place=120,
    needs="clip",
    questions=(
        ask("begins", "From", "m", 0.5, 200.0, 1.0, "How far off it is as the shot begins.", "log"),
        ask("ends", "To", "m", 0.5, 200.0, 25.0, "How far off it is as the shot ends.", "log"),
        ask(
            "room", "Room", "%", 0.0, 100.0, 40.0, "How much of the place is heard when it is far."
        ),
    ),
    words="distance zoom walk away closer further approach leave perspective",
    help="The sound moves away, or comes near, as the shot does.",
)
