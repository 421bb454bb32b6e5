"""Riser: A rise that ends in the cut."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="riser",
    label="Riser",
    kind="hit",
    family="For the cut",
    parameters=(
        control("length", "Length", "s", 0.5, 20.0, 4.0, "How long it rises.", "log"),
        control("octaves", "Octaves", "", 0.2, 5.0, 2.0, "How far its pitch rises."),
        share("tone", "Tone", 50.0, "From noise to tones."),
    ),
    sounds=(
        Shipped("Riser", {}, "build up", "It rises into the cut."),
        Shipped(
            "Short noise rise",
            {"length": 1.5, "tone": 0.0},
            "sweep",
            "A second and a half of noise.",
        ),
        Shipped(
            "Long climb",
            {"length": 12.0, "octaves": 3.0, "tone": 80.0},
            "suspense",
            "It will not stop.",
        ),
    ),
    words="build up tension crescendo swell suspense trailer sweep",
    help="A rise that ends in the cut.",
    source="Shepard, “Circularity in judgments of relative pitch” (1964) for its octaves; "
    "common practice in trailers",
)
