"""Memory or dream."""

from __future__ import annotations

from bathyphon.core.recipes.kit.table import RecipeTable, ask, choose, frames

TABLE = RecipeTable(
    id="memory",
    label="Memory or dream",
    place=100,
    needs="stretch",
    questions=(
        choose(
            "way", "As", ("memory", "dream"), "A memory is thin and far, a dream soft and wide."
        ),
        ask("far", "How far", "%", 10.0, 100.0, 55.0, "From a hint to another world."),
        frames("ramp", "Ramps over", 12, "How slowly it comes and goes.", 200),
    ),
    words="flashback dream memory vision past remember thin wide reverb",
    help="A passage that is remembered or dreamt: everything in it moves away.",
)
