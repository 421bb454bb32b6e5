"""Limit: no peak above a ceiling, not even between the samples."""

from __future__ import annotations

from bathyphon.core.effects.kit.table import Parameter, Pattern, Table

TABLE = Table(
    id="limit",
    label="Limit",
    place=220,
    engages="blend",
    parameters=(
        Parameter(
            "ceiling_db", "Ceiling", "dB", -24.0, 0.0, "db", default=-1.0,
            help="No peak gets above this, nor between the samples (dBTP).",
        ),
        Parameter(
            "gain_db", "Gain", "dB", -24.0, 24.0, "db", default=0.0,
            help="Level before it: more makes everything louder and denser.",
        ),
        Parameter(
            "release_ms", "Release", "ms", 5.0, 2000.0, "log", default=120.0,
            help="How fast it lets go after a peak.",
        ),
    ),
    telling=("ceiling_db", "gain_db"),
    hatch=Pattern("lines", angle=90.0, spacing=9.0, weight=2.4),
    lookback_s=0.2,
    words="limiter peak peaks ceiling clipping normalise normalize maximise loudness safe "
    "delivery",
    for_level=True,
    help="Keeps every peak below a ceiling.",
)  # fmt: skip
