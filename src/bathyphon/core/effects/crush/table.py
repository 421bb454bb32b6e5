"""Crush: fewer bits and fewer samples, as of old machines."""

from __future__ import annotations

from bathyphon.core.effects.kit.table import Parameter, Pattern, Table

TABLE = Table(
    id="crush",
    label="Crush",
    place=190,
    engages="blend",
    parameters=(
        Parameter(
            "bits", "Bits", "", 2.0, 16.0, "linear", default=8.0,
            help="Fewer bits: rougher, and noisier where it is quiet.",
        ),
        Parameter(
            "rate_hz", "Rate", "Hz", 500.0, 48000.0, "log", default=12000.0,
            help="Fewer samples a second: duller, with whistles that do not belong.",
        ),
        Parameter(
            "mix", "Mix", "%", 0.0, 100.0, "linear", default=100.0,
            help="Up to 50 % the direct sound stays whole; at 100 % it is gone.",
        ),
    ),
    telling=("bits", "rate_hz"),
    hatch=Pattern("dots", spacing=9.0, weight=4.0),
    words="bitcrusher bit crusher lofi lo fi digital 8bit toy robot glitch game degrade",
    help="Toys, robots and broken machines: fewer bits, fewer samples.",
)  # fmt: skip
