"""Traffic: A road, from one car at night to a city."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="traffic",
    label="Traffic",
    kind="bed",
    family="Places",
    parameters=(
        control("cars", "Cars", "per min", 0.5, 120.0, 14.0, "How many pass.", "log"),
        control("distance", "Distance", "m", 5.0, 600.0, 30.0, "How far off the road is.", "log"),
        share("city", "City", 30.0, "How much of the rest of a city there is."),
    ),
    sounds=(
        Shipped("Street", {}, "town", "Cars pass by the window."),
        Shipped(
            "City from above",
            {"cars": 90.0, "distance": 450.0, "city": 100.0},
            "urban roof distant",
            "A city that never stops.",
        ),
        Shipped(
            "Country road at night",
            {"cars": 1.2, "distance": 60.0, "city": 2.0},
            "lonely",
            "One car, long after another.",
        ),
        Shipped(
            "Motorway",
            {"cars": 110.0, "distance": 120.0, "city": 10.0},
            "highway",
            "A line of tyres.",
        ),
    ),
    words="road cars city street motorway highway urban vehicles",
    help="A road, from one car at night to a city.",
    source="A point source that passes by: power falls with the square of its distance; "
    "Sandberg & Ejsmont, “Tyre/Road Noise Reference Book” (2002): a hump near 1 kHz",
)
