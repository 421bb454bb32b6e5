"""Splash: something falls into water, or comes out of it."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, share

TABLE = ModelTable(
    id="splash",
    label="Splash",
    kind="hit",
    family="Water",
    parameters=(
        share("size", "Size", 50.0, "From a pebble to a whale."),
        share("spray", "Spray", 50.0, "How much water flies."),
    ),
    sounds=(
        Shipped("Splash", {}, "jump", "Somebody jumps in."),
        Shipped(
            "Pebble in the pool", {"size": 6.0, "spray": 10.0}, "stone plop drop", "A small stone."
        ),
        Shipped(
            "Going under", {"size": 70.0, "spray": 30.0}, "dive submerge", "A diver slips below."
        ),
        Shipped("Coming up", {"size": 35.0, "spray": 85.0}, "surface emerge", "Back into the air."),
    ),
    words="dive jump fall water plunge surface emerge pool sea",
    help="Something falls into water, or comes out of it.",
    source="Franz, “Splashes as sources of sound in liquids” (1959): impact, then the cavity's "
    "bubbles; Minnaert (1933)",
)
