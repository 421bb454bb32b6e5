"""Call and answer."""

from __future__ import annotations

from bathyphon.core.recipes.kit.table import RecipeTable, ask

TABLE = RecipeTable(
    id="answer",
    label="Call and answer",
    place=40,
    needs="clip",
    questions=(
        ask(
            "metres", "Wall", "m", 5.0, 600.0, 60.0, "How far off the wall is that answers.", "log"
        ),
        ask(
            "level",
            "Answer",
            "dB",
            -40.0,
            -6.0,
            -9.0,
            "How loud the first answer is beside the call.",
        ),
        ask("times", "Times", "", 1, 8, 2, "How often it comes back.", whole=True),
    ),
    words="echo call wall mountain cave shout canyon distance",
    help="A call comes back from a wall so many metres away, darker each time.",
)
