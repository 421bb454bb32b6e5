"""Knock: something is struck: a door, a pipe, a pane, a stone."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="knock",
    label="Knock",
    kind="hit",
    family="People and things",
    parameters=(
        control(
            "of",
            "Of",
            "",
            0.0,
            3.0,
            0.0,
            "What is struck.",
            choices=("wood", "metal", "glass", "stone"),
        ),
        control(
            "pitch",
            "Pitch",
            "Hz",
            60.0,
            3000.0,
            190.0,
            "The lowest tone of what is struck: small things are higher.",
            "log",
        ),
        control("times", "Times", "", 1.0, 12.0, 3.0, "How often.", whole=True),
        share("hard", "Hard", 50.0, "From a knuckle to a hammer."),
    ),
    sounds=(
        Shipped("Knock at a door", {}, "wood visitor", "Three times, with the knuckles."),
        Shipped(
            "Knock on the hull",
            {"of": 1.0, "pitch": 120.0, "times": 2.0, "hard": 40.0},
            "metal ship tank pipe",
            "Somebody is in there.",
        ),
        Shipped(
            "Hammer on a pipe",
            {"of": 1.0, "pitch": 430.0, "times": 4.0, "hard": 90.0},
            "metal clang",
            "It carries through the house.",
        ),
        Shipped(
            "Glasses",
            {"of": 2.0, "pitch": 1700.0, "times": 1.0, "hard": 30.0},
            "clink toast",
            "Two glasses touch.",
        ),
        Shipped(
            "Stone on stone",
            {"of": 3.0, "pitch": 700.0, "times": 2.0, "hard": 80.0},
            "rock pebble click",
            "A pebble on rock.",
        ),
        Shipped(
            "Lamp switch",
            {"of": 0.0, "pitch": 1300.0, "times": 1.0, "hard": 100.0},
            "click button light off",
            "The light goes out.",
        ),
    ),
    words="knocking hit tap bang pipe hull table door wood metal glass stone clink switch",
    help="Something is struck: a door, a pipe, a pane, a stone.",
    source="Modal synthesis (Adrien, 1991); Fletcher & Rossing, “The Physics of Musical "
    "Instruments”: free bars ring at 1, 2.76, 5.40, 8.93",
)
