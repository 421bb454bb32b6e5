"""Bass drop: A low tone that falls away under a cut."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="bass_drop",
    label="Bass drop",
    kind="hit",
    family="For the cut",
    parameters=(
        control("from", "From", "Hz", 40.0, 400.0, 110.0, "Where it begins.", "log"),
        control("to", "To", "Hz", 18.0, 120.0, 28.0, "Where it ends.", "log"),
        control("length", "Length", "s", 0.3, 10.0, 2.5, "How long it falls.", "log"),
        share(
            "grit", "Grit", 15.0, "How much it growls, so that small loudspeakers have some of it."
        ),
    ),
    sounds=(
        Shipped("Bass drop", {}, "sub", "The ground gives way."),
        Shipped("Long fall", {"from": 220.0, "length": 6.0}, "slow down", "It falls and falls."),
        Shipped(
            "Growl down",
            {"from": 150.0, "to": 40.0, "length": 1.4, "grit": 85.0},
            "dirty",
            "Heard on a phone, too.",
        ),
    ),
    words="sub fall down sink low trailer cut",
    help="A low tone that falls away under a cut.",
    source="A sine whose pitch falls exponentially; common practice",
)
