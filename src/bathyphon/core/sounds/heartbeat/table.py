"""Heartbeat: A heart, from inside."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="heartbeat",
    label="Heartbeat",
    kind="bed",
    family="People",
    parameters=(
        control("pace", "Pace", "bpm", 35.0, 180.0, 70.0, "Beats a minute."),
        share("hard", "Hard", 45.0, "From barely felt to hammering."),
    ),
    sounds=(
        Shipped("Heartbeat", {}, "calm pulse", "A heart at rest."),
        Shipped("Racing heart", {"pace": 135.0, "hard": 85.0}, "fear chase panic", "It hammers."),
        Shipped(
            "Heart under water", {"pace": 48.0, "hard": 20.0}, "slow dive", "Slow, and far inside."
        ),
    ),
    words="heart pulse fear tension alive body",
    help="A heart, from inside.",
    source="Rangayyan & Lehner, “Phonocardiogram signal analysis” (1988): two sounds at 20 to "
    "150 Hz",
)
