"""A voice from …."""

from __future__ import annotations

from bathyphon.core.recipes.kit.table import RecipeTable, ask, choose

TABLE = RecipeTable(
    id="voice_from",
    label="A voice from …",
    place=50,
    needs="clip",
    questions=(
        choose(
            "place",
            "From",
            ("phone", "radio", "next room", "small loudspeaker", "car"),
            "Through what, or from where, it is heard.",
        ),
        ask("level", "Level", "dB", -24.0, 6.0, 0.0, "How loud it comes out."),
    ),
    words="telephone phone call radio walkie next room door wall loudspeaker tv car comms intercom",
    help="A voice on the phone, over the radio, from the next room, through a small "
    "loudspeaker or in a car.",
)
