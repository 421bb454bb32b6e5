"""Ring out here."""

from __future__ import annotations

from bathyphon.core.recipes.kit.table import RecipeTable, ask, frames

TABLE = RecipeTable(
    id="ring_out",
    label="Ring out here",
    place=10,
    needs="clip",
    questions=(
        ask(
            "decay", "Rings for", "s", 0.5, 20.0, 4.0, "How long it takes until it is gone.", "log"
        ),
        frames("capture", "Captures", 15, "How many of the last frames go into it.", least=1),
        frames("fade", "Fades over", 4, "Over how many of them the direct sound goes.", 100),
    ),
    words="tail ending reverb out cut beat music stop hall",
    help="The sound ends at the playhead, at the nearest cut or beat or where its clip ends, and "
    "its last frames ring on: as loud at first as it was.",
)
