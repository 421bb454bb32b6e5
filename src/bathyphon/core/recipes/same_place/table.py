"""As if in the same place as that clip."""

from __future__ import annotations

from bathyphon.core.recipes.kit.table import RecipeTable, ask, choose

TABLE = RecipeTable(
    id="same_place",
    label="As if in the same place",
    place=55,
    needs="two clips",
    questions=(
        choose(
            "what",
            "Match",
            ("room, tone and level", "room and tone", "room alone", "tone alone"),
            "What is taken from the other clip.",
        ),
        ask("strength", "Strength", "%", 0.0, 100.0, 100.0, "How far towards the other clip."),
    ),
    words="match ambience adr dub dubbing looped line reverb match eq match tone match room same "
    "space like that clip reference acoustic",
    help="A line that was recorded elsewhere sounds as if it had been spoken where the other clip "
    "was: its room is heard out of the pauses, octave by octave, its tone and its level out of "
    "what is said.",
)
