"""Whoosh: something rushes past."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="whoosh",
    label="Whoosh",
    kind="hit",
    family="For the cut",
    parameters=(
        control("length", "Length", "s", 0.15, 6.0, 0.9, "From first to last.", "log"),
        control(
            "pitch",
            "Pitch",
            "Hz",
            120.0,
            5000.0,
            900.0,
            "The middle of its noise as it is nearest.",
            "log",
        ),
        share("sharp", "Sharp", 55.0, "How suddenly it is there."),
        control(
            "across",
            "Across",
            "%",
            -100.0,
            100.0,
            80.0,
            "From left to right; below 0 from right to left.",
        ),
    ),
    sounds=(
        Shipped("Whoosh", {}, "pass cut", "Past, from left to right."),
        Shipped(
            "Quick swish",
            {"length": 0.3, "pitch": 2400.0, "sharp": 75.0},
            "blade fast title",
            "A blade.",
        ),
        Shipped(
            "Slow heavy pass",
            {"length": 3.2, "pitch": 260.0, "sharp": 30.0},
            "large ship flyby",
            "Something large.",
        ),
        Shipped("Whoosh to the left", {"across": -90.0}, "reverse", "The other way."),
    ),
    words="swish pass by transition cut fly swoosh sweep title",
    help="Something rushes past.",
    source="Strouhal (1878): what moves through air sounds at 0.2 · speed / width, so pitch "
    "and loudness rise as it comes near",
)
