"""Fit this line."""

from __future__ import annotations

from bathyphon.core.recipes.kit.table import RecipeTable, choose

TABLE = RecipeTable(
    id="fit_line",
    label="Fit this line",
    place=60,
    needs="clip",
    questions=(
        choose("to", "Until", ("next cut", "next clip", "end of the shot"), "Where it is to end."),
        choose(
            "manner",
            "Manner",
            ("natural", "hurried"),
            "Natural goes up to 125 %, hurried to 180 %.",
        ),
    ),
    words="fit gap time stretch shorten lengthen dialogue line speed faster",
    help="A spoken line is made to fit its gap, its pitch held.",
)
