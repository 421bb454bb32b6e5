"""Ring: the sound times a tone, which moves every part of it up and down by the tone's pitch."""

from __future__ import annotations

from bathyphon.core.effects.kit.table import OUTPUT, Parameter, Pattern, Table, output_level

TABLE = Table(
    id="ring",
    label="Ring",
    place=170,
    engages="blend",
    parameters=(
        Parameter(
            "freq_hz", "Frequency", "Hz", 0.5, 8000.0, "log", default=60.0,
            help="Low: a growl; middle: a bell; high: chirping.",
        ),
        Parameter(
            "mix", "Mix", "%", 0.0, 100.0, "linear", default=100.0,
            help="Up to 50 % the direct sound stays whole; at 100 % it is gone.",
        ),
        output_level(),
    ),
    telling=("freq_hz", "mix"),
    hatch=Pattern("crossed", angle=0.0, spacing=8.0, weight=1.0),
    words="robot metallic metal modulator alien bell",
    added={"level_db": 3.0},
    output=OUTPUT,
    help="Metal voices and bells: the sound times a tone.",
)  # fmt: skip
