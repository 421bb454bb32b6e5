"""Swell into a hit."""

from __future__ import annotations

from bathyphon.core.recipes.kit.table import RecipeTable, ask, choose

TABLE = RecipeTable(
    id="swell",
    label="Swell into a hit",
    place=150,
    needs="stretch",
    questions=(
        ask(
            "length",
            "Swells for",
            "s",
            0.5,
            20.0,
            3.0,
            "How long before the playhead it begins.",
            "log",
        ),
        choose(
            "hit", "Hit", ("impact", "knock", "thunder", "none"), "What it ends in, from the shelf."
        ),
        ask(
            "depth",
            "Dips by",
            "dB",
            0.0,
            40.0,
            12.0,
            "How far everything else is down as it begins; a third of that after the hit, until "
            "the shot ends.",
        ),
    ),
    words="swell build riser hit impact boom cut crescendo away after dip",
    help="Everything swells into the playhead, a riser with it, ends in a hit, and gives way "
    "after it.",
)
