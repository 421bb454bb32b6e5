"""Tone: bass and treble, up or down."""

from __future__ import annotations

from bathyphon.core.effects.kit.table import OUTPUT, Parameter, Pattern, Table, output_level

TABLE = Table(
    id="tone",
    label="Tone",
    place=60,
    engages="sweep",
    parameters=(
        Parameter(
            "bass_db", "Bass", "dB", -24.0, 24.0, "db", default=0.0, neutral=0.0,
            help="Below 250 Hz: weight, rumble, warmth.",
        ),
        Parameter(
            "treble_db", "Treble", "dB", -24.0, 24.0, "db", default=0.0, neutral=0.0,
            help="Above 3.2 kHz: brightness, air, hiss.",
        ),
        output_level(sweeps=True),
    ),
    telling=("bass_db", "treble_db"),
    hatch=Pattern("lines", angle=0.0, spacing=6.0, weight=1.2),
    lookback_s=0.1,
    words="bass treble brighter darker warmer bright dark eq shelf tilt",
    output=OUTPUT,
    help="Bass and treble, up or down.",
)  # fmt: skip
