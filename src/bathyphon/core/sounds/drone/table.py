"""Drone: A tone that stays: dread, calm, a held breath."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="drone",
    label="Drone",
    kind="bed",
    family="Tones and noise",
    parameters=(
        control("pitch", "Pitch", "Hz", 27.5, 440.0, 55.0, "The tone it rests on.", "log"),
        share("bright", "Bright", 25.0, "How far up its partials reach."),
        share("uneasy", "Uneasy", 40.0, "How much its voices rub against each other."),
        share("air", "Air", 20.0, "How much breath is in it."),
    ),
    sounds=(
        Shipped("Low dread", {}, "dark suspense", "Something is wrong."),
        Shipped(
            "Calm fifth",
            {"pitch": 110.0, "bright": 35.0, "uneasy": 0.0, "air": 30.0},
            "peace open",
            "Open and at rest.",
        ),
        Shipped(
            "Glass tension",
            {"pitch": 330.0, "bright": 70.0, "uneasy": 80.0, "air": 15.0},
            "high suspense",
            "A thin wire.",
        ),
        Shipped(
            "Deep earth",
            {"pitch": 32.0, "bright": 8.0, "uneasy": 25.0, "air": 45.0},
            "sub rumble cave",
            "Below hearing, nearly.",
        ),
    ),
    words="tension dread pad suspense dark tone hum low music ominous calm",
    help="A tone that stays: dread, calm, a held breath.",
    source="Risset & Mathews, “Analysis of musical-instrument tones” (1969): beating partials "
    "make a tone live",
)
