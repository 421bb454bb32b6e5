"""Tape stop and start."""

from __future__ import annotations

from bathyphon.core.recipes.kit.table import RecipeTable, ask, choose

TABLE = RecipeTable(
    id="tape",
    label="Tape stop and start",
    place=115,
    needs="clip",
    questions=(
        choose("way", "Way", ("stop", "start"), "Whether it runs down or up to speed."),
        ask("over", "Over", "s", 0.1, 8.0, 1.2, "How long that takes.", "log"),
    ),
    words="tape stop start turntable brake slow down power off record scratch vinyl",
    help="The sound runs down like a tape that is stopped, its pitch with it, or up to speed as "
    "it begins.",
)
