"""Room tone: the air of a room in which nobody speaks."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, share

TABLE = ModelTable(
    id="room",
    label="Room tone",
    kind="bed",
    family="Fire and rooms",
    parameters=(
        share("size", "Size", 40.0, "From a cupboard to a hall."),
        share("air", "Ventilation", 20.0, "How much moving air there is."),
        share("hum", "Mains hum", 6.0, "How much the lights and wires hum."),
    ),
    sounds=(
        Shipped("Living room", {}, "home quiet", "A room at home."),
        Shipped(
            "Office",
            {"size": 55.0, "air": 65.0, "hum": 18.0},
            "hvac work",
            "Ventilation and lights.",
        ),
        Shipped(
            "Church",
            {"size": 100.0, "air": 8.0, "hum": 0.0},
            "hall cathedral",
            "A great still place.",
        ),
        Shipped(
            "Cellar",
            {"size": 25.0, "air": 5.0, "hum": 30.0},
            "basement",
            "Thick walls and a fuse box.",
        ),
        Shipped(
            "Cave air",
            {"size": 90.0, "air": 12.0, "hum": 0.0},
            "cavern chamber rock",
            "Dry stone and a breath of air.",
        ),
    ),
    words="air silence ambience quiet interior atmosphere tone hvac ventilation",
    help="The air of a room in which nobody speaks.",
    source="Blazier, “Revised noise criteria for application in the acoustical design and "
    "rating of HVAC systems” (1981): rooms fall by 5 dB an octave",
)
