"""Door: A door closes, or creaks before it does."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="door",
    label="Door",
    kind="hit",
    family="People and things",
    parameters=(
        share("size", "Size", 45.0, "From a cupboard to a gate."),
        share("force", "Force", 45.0, "From pulled to to slammed."),
        share("creak", "Creak", 0.0, "How much its hinges creak before."),
        control("of", "Of", "", 0.0, 1.0, 0.0, "What it is made of.", choices=("wood", "metal")),
    ),
    sounds=(
        Shipped("Door", {}, "close room", "A door is closed."),
        Shipped("Slammed door", {"size": 55.0, "force": 100.0}, "angry bang", "Somebody leaves."),
        Shipped(
            "Creaking door",
            {"size": 50.0, "force": 25.0, "creak": 100.0},
            "hinge old haunted",
            "It has not been oiled.",
        ),
        Shipped(
            "Steel hatch",
            {"size": 90.0, "force": 80.0, "of": 1.0},
            "submarine ship airlock metal",
            "A hatch falls shut.",
        ),
        Shipped(
            "Cupboard", {"size": 5.0, "force": 30.0}, "kitchen cabinet drawer", "A small door."
        ),
    ),
    words="close slam shut open creak hatch gate latch car",
    help="A door closes, or creaks before it does.",
    source="Modal synthesis (Adrien, 1991); stick and slip as in Farnell, “Designing Sound” (2010)",
)
