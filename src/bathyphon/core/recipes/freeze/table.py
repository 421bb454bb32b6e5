"""Freeze the last moment."""

from __future__ import annotations

from bathyphon.core.recipes.kit.table import RecipeTable, ask, frames

TABLE = RecipeTable(
    id="freeze",
    label="Freeze the last moment",
    place=110,
    needs="clip",
    questions=(
        ask("hold", "Holds for", "s", 0.5, 30.0, 5.0, "How long the moment stands.", "log"),
        frames("capture", "Captures", 10, "How many of the last frames are held.", least=1),
    ),
    words="hold freeze sustain infinite pad stop time still",
    help="The sound stops at the playhead, at the cut beside it or at its end, and its last "
    "moment stands in the air.",
)
