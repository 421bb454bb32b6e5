"""Duck: turned down for as long as another track speaks."""

from __future__ import annotations

from bathyphon.core.effects.kit.table import Parameter, Pattern, Reference, Table

TABLE = Table(
    id="duck",
    label="Duck",
    place=240,
    engages="blend",
    parameters=(
        Parameter(
            "range_db", "Range", "dB", 0.0, 60.0, "linear", default=10.0,
            help="By how much it is turned down.",
        ),
        Parameter(
            "threshold_db", "Threshold", "dB", -80.0, 0.0, "db", default=-40.0,
            help="How loud the other track must be.",
        ),
        Parameter(
            "release_ms", "Release", "ms", 10.0, 5000.0, "log", default=600.0,
            help="How fast it comes back.",
        ),
        Parameter(
            "attack_ms", "Attack", "ms", 1.0, 1000.0, "log", default=60.0,
            help="How fast it gives way.",
        ),
    ),
    telling=("range_db", "threshold_db"),
    hatch=Pattern("lines", angle=-20.0, spacing=8.0, weight=1.5, dash=(10.0, 4.0)),
    lookback_s=0.5,
    reference=Reference(
        "track", "Listens to", "track", "The track that this one gives way to; most often voices."
    ),
    words="ducking sidechain side chain under dialogue dialog voice over voiceover music "
    "down",
    for_level=True,
    help="Music that gives way to a voice on another track.",
)  # fmt: skip
