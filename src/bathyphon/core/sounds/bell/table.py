"""Bell: A bell, from a bicycle's to a tower's."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="bell",
    label="Bell",
    kind="hit",
    family="People and things",
    parameters=(
        control("pitch", "Pitch", "Hz", 60.0, 2500.0, 240.0, "The note one hears.", "log"),
        control("ring", "Rings", "s", 0.3, 15.0, 6.0, "How long it rings.", "log"),
        share("hard", "Hard", 50.0, "From a felt hammer to an iron clapper."),
        control("times", "Times", "", 1.0, 12.0, 1.0, "How often it strikes.", whole=True),
    ),
    sounds=(
        Shipped("Church bell", {}, "tower toll", "One stroke from the tower."),
        Shipped(
            "Ship’s bell",
            {"pitch": 900.0, "ring": 3.5, "hard": 80.0, "times": 2.0},
            "boat watch",
            "Two strokes on deck.",
        ),
        Shipped(
            "Desk bell", {"pitch": 2200.0, "ring": 1.6, "hard": 70.0}, "ding reception", "Service."
        ),
    ),
    words="church tower chime ring ding toll clock ship",
    help="A bell, from a bicycle's to a tower's.",
    source="Fletcher & Rossing, “The Physics of Musical Instruments”: hum, prime, tierce, "
    "quint and nominal at 0.5, 1, 1.2, 1.5 and 2",
)
