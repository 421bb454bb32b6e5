"""End with the picture."""

from __future__ import annotations

from bathyphon.core.recipes.kit.table import RecipeTable, ask, choose

TABLE = RecipeTable(
    id="end_with_picture",
    label="End with the picture",
    place=20,
    needs="clip",
    questions=(
        ask(
            "decay", "Rings for", "s", 0.5, 20.0, 6.0, "How long it takes until it is gone.", "log"
        ),
        choose(
            "at",
            "Ends at",
            ("end of the picture", "last cut", "end of the shot"),
            "Where the music is to stop.",
        ),
        choose(
            "on",
            "Beat",
            ("before the last beat", "exactly there"),
            "Just before the last beat, whose attack is not heard, or on the very frame.",
        ),
    ),
    words="music title credits stop out shorten final",
    help="The music is shortened so that it stops with the picture, on a beat if it has any, and "
    "rings out.",
)
