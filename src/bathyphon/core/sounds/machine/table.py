"""Machine: something that turns: a fan, a generator, an engine, a fridge."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="machine",
    label="Machine",
    kind="bed",
    family="Machines",
    parameters=(
        control("turns", "Turns", "Hz", 5.0, 120.0, 25.0, "How often it turns in a second.", "log"),
        share("rough", "Rough", 40.0, "How hard and unevenly it works."),
        share("air", "Air", 30.0, "How much air or water it moves."),
        control(
            "wall", "Behind", "dB", 0.0, 40.0, 0.0, "How much a wall takes away of its treble."
        ),
    ),
    sounds=(
        Shipped(
            "Generator",
            {"turns": 25.0, "rough": 65.0, "air": 30.0},
            "diesel power",
            "A diesel set outside.",
        ),
        Shipped(
            "Boat engine below deck",
            {"turns": 14.0, "rough": 80.0, "air": 25.0, "wall": 22.0},
            "ship ferry",
            "Felt through the planks.",
        ),
        Shipped(
            "Fridge",
            {"turns": 50.0, "rough": 12.0, "air": 12.0, "wall": 8.0},
            "kitchen refrigerator",
            "A fridge in the next corner.",
        ),
        Shipped(
            "Fan",
            {"turns": 18.0, "rough": 10.0, "air": 95.0},
            "ventilator air conditioning",
            "Blades and air.",
        ),
        Shipped(
            "Server room",
            {"turns": 95.0, "rough": 15.0, "air": 80.0},
            "computer data rack",
            "Rows of small fans.",
        ),
        Shipped(
            "Pump in the shaft",
            {"turns": 9.0, "rough": 55.0, "air": 50.0, "wall": 12.0},
            "water industrial",
            "It works somewhere below.",
        ),
    ),
    words="engine motor hum fan generator fridge boat pump compressor buzz",
    help="Something that turns: a fan, a generator, an engine, a fridge.",
    source="Fletcher & Rossing, “The Physics of Musical Instruments” (harmonics of rotation); "
    "Lighthill, “On sound generated aerodynamically” (1952) for moved air",
)
