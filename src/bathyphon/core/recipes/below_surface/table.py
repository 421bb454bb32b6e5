"""Below the surface."""

from __future__ import annotations

from bathyphon.core.recipes.kit.table import RecipeTable, ask, choose

TABLE = RecipeTable(
    id="below_surface",
    label="Below the surface",
    place=30,
    needs="stretch",
    questions=(
        ask("depth", "Depth", "%", 0, 100, 50, "How far down: deeper is darker."),
        choose("bed", "Under water", ("bed", "none"), "A bed of water under this stretch."),
        choose(
            "above",
            "Above",
            ("none", "waves", "brook", "wind", "rain"),
            "A bed over the shots before and after.",
        ),
    ),
    words="underwater under water muffle dive sea pool submerged sump surfaces",
    help="Everything in this stretch is heard from below, in step with the cuts, with beds of "
    "water below and of air above.",
)
