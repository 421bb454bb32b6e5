"""Footsteps: somebody walks: on gravel, wood, stone, snow or through water."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="footsteps",
    label="Footsteps",
    kind="hit",
    family="People and things",
    parameters=(
        control(
            "on",
            "On",
            "",
            0.0,
            5.0,
            0.0,
            "What they tread on.",
            choices=("gravel", "wood", "stone", "snow", "puddles", "metal"),
        ),
        control("steps", "Steps", "", 1.0, 60.0, 6.0, "How many.", whole=True),
        control("pace", "Pace", "bpm", 40.0, 220.0, 105.0, "How many steps a minute."),
        share("weight", "Weight", 50.0, "From tiptoe to a heavy boot."),
    ),
    sounds=(
        Shipped("Steps on gravel", {}, "path outside", "Walking on a path."),
        Shipped(
            "Steps on boards", {"on": 1.0, "pace": 95.0}, "wood floor hall house", "A wooden floor."
        ),
        Shipped(
            "Steps on stone", {"on": 2.0, "weight": 40.0}, "corridor cave street", "A stone floor."
        ),
        Shipped(
            "Boots in snow",
            {"on": 3.0, "pace": 85.0, "weight": 70.0},
            "winter",
            "It creaks under them.",
        ),
        Shipped(
            "Wading",
            {"on": 4.0, "pace": 60.0, "weight": 60.0},
            "water puddle splash",
            "Through shallow water.",
        ),
        Shipped(
            "Running on a gangway",
            {"on": 5.0, "pace": 175.0, "steps": 10.0, "weight": 65.0},
            "metal ship stairs run",
            "Somebody is in a hurry.",
        ),
    ),
    words="steps walk walking run shoes boots feet gravel snow",
    help="Somebody walks: on gravel, wood, stone, snow or through water.",
    source="Ekimov & Sabatier, “Vibration and sound signatures of human footsteps in "
    "buildings” (2006): heel and sole, with most below 500 Hz and friction above; "
    "Farnell, “Designing Sound” (2010)",
)
