"""Gate: what is quieter than a threshold is turned down."""

from __future__ import annotations

from bathyphon.core.effects.kit.table import Parameter, Pattern, Table

TABLE = Table(
    id="gate",
    label="Gate",
    place=230,
    engages="blend",
    parameters=(
        Parameter(
            "threshold_db", "Threshold", "dB", -80.0, 0.0, "db", default=-45.0,
            help="What is quieter than this is turned down.",
        ),
        Parameter(
            "range_db", "Range", "dB", 0.0, 96.0, "linear", default=30.0,
            help="By how much it is turned down.",
        ),
        Parameter(
            "hold_ms", "Hold", "ms", 0.0, 2000.0, "linear", default=80.0,
            help="How long it stays open after the sound has fallen.",
        ),
        Parameter(
            "attack_ms", "Attack", "ms", 0.5, 100.0, "log", default=5.0,
            help="How fast it opens.",
        ),
        Parameter(
            "release_ms", "Release", "ms", 5.0, 3000.0, "log", default=150.0,
            help="How fast it closes.",
        ),
    ),
    telling=("threshold_db", "range_db"),
    hatch=Pattern("lines", angle=90.0, spacing=12.0, weight=1.5, dash=(6.0, 5.0)),
    lookback_s=0.2,
    words="noise hiss hum background pauses expander silence between words",
    for_level=True,
    help="Turns the pauses down: hiss, hum, a room between words.",
)  # fmt: skip
