"""Wind: wind over open ground, around a corner or through a gap."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, share

TABLE = ModelTable(
    id="wind",
    label="Wind",
    kind="bed",
    family="Weather",
    parameters=(
        share("strength", "Strength", 45.0, "How hard it blows."),
        share("gusts", "Gusts", 50.0, "How uneven it is."),
        share("whistle", "Whistle", 20.0, "How much of it howls in gaps and wires."),
    ),
    sounds=(
        Shipped("Hillside wind", {}, "open field", "Wind over grass."),
        Shipped(
            "Breeze",
            {"strength": 12.0, "gusts": 35.0, "whistle": 0.0},
            "light air",
            "A little air.",
        ),
        Shipped(
            "Storm", {"strength": 95.0, "gusts": 75.0, "whistle": 35.0}, "gale", "A storm outside."
        ),
        Shipped(
            "Draught through a gap",
            {"strength": 40.0, "gusts": 60.0, "whistle": 100.0},
            "howl window door",
            "It howls in a gap.",
        ),
    ),
    words="wind storm gust breeze howl whistle draught hill",
    help="Wind over open ground, around a corner or through a gap.",
    source="Strouhal (1878): a whistle's pitch is 0.2 · speed / width; von Kármán's spectrum "
    "of gusts; Farnell, “Designing Sound” (2010)",
)
