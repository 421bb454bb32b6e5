"""Thicker voice."""

from __future__ import annotations

from bathyphon.core.recipes.kit.table import RecipeTable, ask, choose

TABLE = RecipeTable(
    id="thick_voice",
    label="Thicker voice",
    place=90,
    needs="clip",
    questions=(
        choose(
            "way",
            "As",
            ("doubled", "choir of one", "harmony"),
            "Twice the same, many of the same, or a third above.",
        ),
        choose(
            "key",
            "Key",
            ("C", "C♯", "D", "D♯", "E", "F", "F♯", "G", "G♯", "A", "A♯", "B"),
            "The key of the song, for a harmony.",
        ),
        ask("level", "Others", "dB", -24.0, 0.0, -6.0, "How loud the other voices are."),
    ),
    words="double choir harmony thicken voices song vocal third",
    help="One voice becomes two, a choir, or a harmony in the key.",
)
