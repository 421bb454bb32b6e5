"""Drips: drops that fall into standing water, in a cave or a cellar."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="drips",
    label="Drips",
    kind="bed",
    family="Water",
    parameters=(
        control("rate", "Drops", "/s", 0.1, 12.0, 0.9, "How many fall.", "log"),
        share("size", "Size", 40.0, "How large they are: larger ones are lower."),
        control("room", "Room", "s", 0.1, 6.0, 2.4, "How long the place rings.", "log"),
    ),
    sounds=(
        Shipped("Drips in a cave", {}, "cavern", "Single drops in a large dark place."),
        Shipped(
            "Wet chamber",
            {"rate": 5.0, "size": 55.0, "room": 3.8},
            "hall grotto",
            "Many drops in a great chamber.",
        ),
        Shipped(
            "Dripping tap",
            {"rate": 0.8, "size": 25.0, "room": 0.35},
            "kitchen sink",
            "A tap in a small room.",
        ),
        Shipped(
            "Roof after rain",
            {"rate": 9.0, "size": 20.0, "room": 0.2},
            "gutter eaves",
            "What is left of the rain runs off.",
        ),
    ),
    words="drop drip cave cellar leak tap dripping wet",
    help="Drops that fall into standing water, in a cave or a cellar.",
    source="Minnaert (1933); van den Doel (2005); Pumphrey & Elmore, “The entrainment of "
    "bubbles by drop impacts” (1990)",
)
