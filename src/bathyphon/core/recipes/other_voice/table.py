"""Another voice."""

from __future__ import annotations

from bathyphon.core.recipes.kit.table import RecipeTable, ask, choose

TABLE = RecipeTable(
    id="other_voice",
    label="Another voice",
    place=80,
    needs="clip",
    questions=(
        choose(
            "voice",
            "Voice",
            ("deeper", "stranger", "mechanical", "small and quick"),
            "What becomes of it.",
        ),
        ask("far", "How far", "%", 10.0, 100.0, 60.0, "From a touch to beyond recognition."),
    ),
    words="voice change deep monster robot creature small pitch disguise machine cartoon",
    help="A voice made deeper, stranger, mechanical, or small and quick.",
)
