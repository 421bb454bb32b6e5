"""Bubbles: air that rises through water: a diver's breath, a tank, a seep."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="bubbles",
    label="Bubbles",
    kind="bed",
    family="Water",
    parameters=(
        share("amount", "Amount", 50.0, "How many bubbles rise."),
        share("size", "Size", 50.0, "How large they are: larger ones are lower."),
        control(
            "breath",
            "Breath",
            "s",
            0.0,
            12.0,
            5.5,
            "Seconds from one breath to the next; 0 bubbles all the time.",
        ),
    ),
    sounds=(
        Shipped("Diver’s breath", {}, "regulator scuba exhale", "Breath by breath past the ear."),
        Shipped(
            "Calm diver far off",
            {"amount": 30.0, "size": 65.0, "breath": 8.0},
            "scuba distant",
            "Someone else's breath, slow.",
        ),
        Shipped(
            "Air from the rock",
            {"amount": 20.0, "size": 30.0, "breath": 0.0},
            "seep spring",
            "A thread of bubbles.",
        ),
        Shipped(
            "Tank",
            {"amount": 80.0, "size": 20.0, "breath": 0.0},
            "aquarium filter",
            "A pump's fine bubbles.",
        ),
    ),
    words="breath diver regulator scuba tank aquarium air bubbling",
    help="Air that rises through water: a diver's breath, a tank, a seep.",
    source="Minnaert, “On musical air-bubbles and the sounds of running water” (1933); van den "
    "Doel (2005)",
)
