"""Radio noise: what a receiver hears between and behind stations."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="radio",
    label="Radio noise",
    kind="bed",
    family="Tones and noise",
    parameters=(
        share("static", "Crackle", 40.0, "How much lightning it hears."),
        share("whistle", "Whistle", 25.0, "How much of other stations' carriers."),
        control(
            "band",
            "Band",
            "Hz",
            1200.0,
            9000.0,
            3000.0,
            "How much treble the receiver lets through.",
            "log",
        ),
    ),
    sounds=(
        Shipped("Radio static", {}, "comms", "A channel that is open and empty."),
        Shipped(
            "Short wave",
            {"static": 60.0, "whistle": 90.0, "band": 4200.0},
            "tuning world receiver",
            "Whistles from everywhere.",
        ),
        Shipped(
            "Dead channel",
            {"static": 5.0, "whistle": 0.0, "band": 8000.0},
            "hiss white noise",
            "Hiss alone.",
        ),
    ),
    words="static hiss interference shortwave walkie comms transmission tuning",
    help="What a receiver hears between and behind stations.",
    source="ITU-R P.372, “Radio noise”: crackling in bursts over a steady hiss",
)
