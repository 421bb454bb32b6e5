"""Impact: A blow for a cut: deep, with a body and a tail."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="impact",
    label="Impact",
    kind="hit",
    family="For the cut",
    parameters=(
        share("size", "Size", 60.0, "From a thud to the end of the world."),
        share("hard", "Hard", 50.0, "How much attack it has."),
        control("tail", "Tail", "s", 0.2, 6.0, 2.2, "How long it rings.", "log"),
    ),
    sounds=(
        Shipped("Deep impact", {}, "boom trailer", "A blow under a title."),
        Shipped(
            "Thud",
            {"size": 25.0, "hard": 25.0, "tail": 0.4},
            "soft body fall",
            "Something soft and heavy.",
        ),
        Shipped(
            "Metal impact",
            {"size": 45.0, "hard": 100.0, "tail": 3.0},
            "clang crash",
            "It hits like a gate.",
        ),
        Shipped(
            "Far blow",
            {"size": 90.0, "hard": 5.0, "tail": 5.0},
            "distant explosion rumble",
            "Behind the mountain.",
        ),
    ),
    words="boom hit trailer slam punch explosion thud bass stinger",
    help="A blow for a cut: deep, with a body and a tail.",
    source="Fletcher & Rossing (membranes ring at 1, 1.59, 2.14, 2.30, 2.65); common practice "
    "in trailers",
)
