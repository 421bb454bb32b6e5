"""Compress: what is loud is brought nearer to what is quiet."""

from __future__ import annotations

from bathyphon.core.effects.kit.table import Parameter, Pattern, Table

TABLE = Table(
    id="compress",
    label="Compress",
    place=210,
    engages="blend",
    parameters=(
        Parameter(
            "threshold_db", "Threshold", "dB", -60.0, 0.0, "db", default=-20.0,
            help="What is louder than this is brought down.",
        ),
        Parameter(
            "ratio", "Ratio", ":1", 1.0, 20.0, "log", default=3.0,
            help="At 3:1, 3 dB more above the threshold come out as 1 dB.",
        ),
        Parameter(
            "makeup_db", "Make-up", "dB", -12.0, 24.0, "db", default=0.0,
            help="Level after it, to make good what was taken.",
        ),
        Parameter(
            "attack_ms", "Attack", "ms", 0.1, 250.0, "log", default=10.0,
            help="How fast it takes hold.",
        ),
        Parameter(
            "release_ms", "Release", "ms", 10.0, 3000.0, "log", default=150.0,
            help="How fast it lets go.",
        ),
        Parameter(
            "knee_db", "Knee", "dB", 0.0, 24.0, "linear", default=6.0,
            help="How gradually it sets in around the threshold.",
        ),
    ),
    telling=("threshold_db", "ratio"),
    hatch=Pattern("lines", angle=90.0, spacing=6.0, weight=1.2),
    lookback_s=0.2,
    words="compressor compression even level dynamics leveller punch squash",
    added={"makeup_db": 1.5},
    help="Brings the loud nearer to the quiet.",
)  # fmt: skip
