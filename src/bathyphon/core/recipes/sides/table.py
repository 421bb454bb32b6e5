"""Sides that answer the cuts."""

from __future__ import annotations

from bathyphon.core.recipes.kit.table import RecipeTable, ask, choose, frames

TABLE = RecipeTable(
    id="sides",
    label="Sides that answer the cuts",
    place=130,
    needs="clip",
    questions=(
        choose(
            "order",
            "Order",
            ("left, right", "right, left", "left, both, right, both"),
            "Where it is heard from cut to cut.",
        ),
        ask("wide", "How far", "%", 10.0, 100.0, 80.0, "How far to the side."),
        frames("over", "Moves in", 0, "Over how many frames it changes sides.", 50),
    ),
    words="pan left right both sides cuts stereo jump reverse shot",
    help="At each cut the sound changes sides: left, right, or both at times.",
)
