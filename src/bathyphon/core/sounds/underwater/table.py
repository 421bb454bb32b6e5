"""Under water: the pressure and the slow movement heard with the head below the surface."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, share

TABLE = ModelTable(
    id="underwater",
    label="Under water",
    kind="bed",
    family="Water",
    parameters=(
        share("depth", "Depth", 50.0, "How dark it is: the deeper, the less treble is left."),
        share("movement", "Movement", 40.0, "How far the water comes and goes."),
        share("bubbles", "Bubbles", 15.0, "How many bubbles pass by."),
    ),
    sounds=(
        Shipped(
            "Just below the surface",
            {"depth": 15.0, "movement": 65.0, "bubbles": 35.0},
            "shallow swimming pool",
            "Light water close to the surface, always moving.",
        ),
        Shipped("Under water", {}, "dive", "A dive at some metres."),
        Shipped(
            "Flooded passage",
            {"depth": 70.0, "movement": 25.0, "bubbles": 8.0},
            "cave sump tunnel",
            "Still water between walls.",
        ),
        Shipped(
            "The deep",
            {"depth": 100.0, "movement": 15.0, "bubbles": 0.0},
            "abyss ocean floor pressure",
            "Nothing but pressure.",
        ),
    ),
    words="underwater submerged below dive diving sea ocean deep ambience pressure sump pool",
    help="The pressure and the slow movement heard with the head below the surface.",
    source="Wenz, “Acoustic ambient noise in the ocean” (1962): falling by 5 to 6 dB an "
    "octave; Minnaert (1933) for bubbles",
)
