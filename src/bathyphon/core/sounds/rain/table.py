"""Rain: rain on ground, leaves, a roof or water."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="rain",
    label="Rain",
    kind="bed",
    family="Weather",
    parameters=(
        share("intensity", "Intensity", 45.0, "From a drizzle to a downpour."),
        control(
            "on",
            "On",
            "",
            0.0,
            3.0,
            0.0,
            "What it falls on.",
            choices=("ground", "leaves", "roof", "water"),
        ),
        control("distance", "Distance", "m", 1.0, 60.0, 3.0, "How far off it falls.", "log"),
    ),
    sounds=(
        Shipped("Rain", {}, "steady", "Steady rain around you."),
        Shipped(
            "Drizzle on leaves",
            {"intensity": 12.0, "on": 1.0},
            "light forest tree",
            "A few drops in the trees.",
        ),
        Shipped(
            "Rain on a tin roof",
            {"intensity": 60.0, "on": 2.0, "distance": 1.5},
            "hut shed metal",
            "Under a roof of metal.",
        ),
        Shipped(
            "Rain on water", {"intensity": 40.0, "on": 3.0}, "lake pool sea", "Rings on a lake."
        ),
        Shipped("Downpour", {"intensity": 100.0}, "heavy storm", "It pours."),
    ),
    words="rain storm drizzle shower downpour wet weather roof window",
    help="Rain on ground, leaves, a roof or water.",
    source="Marshall & Palmer, “The distribution of raindrops with size” (1948); Pumphrey, "
    "Crum & Bjørnø, “Underwater sound produced by individual drop impacts and rainfall” "
    "(1989)",
)
