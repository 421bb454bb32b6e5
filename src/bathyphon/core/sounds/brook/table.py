"""Running water: water that runs over stones: a trickle, a brook, a river."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="brook",
    label="Running water",
    kind="bed",
    family="Water",
    parameters=(
        share("flow", "Flow", 40.0, "How much water runs."),
        share("stones", "Stones", 40.0, "How large they are: larger ones make lower gurgles."),
        control("distance", "Distance", "m", 1.0, 100.0, 4.0, "How far away it runs.", "log"),
    ),
    sounds=(
        Shipped("Brook", {}, "stream creek", "A brook beside the path."),
        Shipped(
            "Trickle between stones",
            {"flow": 8.0, "stones": 15.0, "distance": 1.5},
            "spring leak",
            "A thread of water, close by.",
        ),
        Shipped(
            "River",
            {"flow": 85.0, "stones": 75.0, "distance": 15.0},
            "rapids",
            "A wide river from its bank.",
        ),
        Shipped(
            "Waterfall far off",
            {"flow": 100.0, "stones": 90.0, "distance": 80.0},
            "falls weir",
            "A fall behind the trees.",
        ),
    ),
    words="stream river water flow trickle rapids waterfall gurgle current",
    help="Water that runs over stones: a trickle, a brook, a river.",
    source="van den Doel, “Physically based models for liquid sounds” (2005); Minnaert, “On "
    "musical air-bubbles” (1933)",
)
