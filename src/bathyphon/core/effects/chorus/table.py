"""Chorus: three wavering copies a side, so that one sounds like many."""

from __future__ import annotations

from bathyphon.core.effects.kit.table import OUTPUT, Parameter, Pattern, Table, output_level

TABLE = Table(
    id="chorus",
    label="Chorus",
    place=140,
    engages="blend",
    parameters=(
        Parameter(
            "rate_hz", "Rate", "Hz", 0.02, 10.0, "log", default=0.6, help="Swings a second.",
        ),
        Parameter(
            "swing", "Swing", "%", 0.0, 100.0, "linear", default=30.0,
            help="How far the copies waver, and how much their pitch does.",
        ),
        Parameter(
            "mix", "Mix", "%", 0.0, 100.0, "linear", default=50.0,
            help="Up to 50 % the direct sound stays whole; at 100 % only the copies are left.",
        ),
        Parameter(
            "delay_ms", "Delay", "ms", 2.0, 60.0, "log", default=18.0,
            help="How far behind the copies are.",
        ),
        Parameter(
            "feedback", "Feedback", "%", -95.0, 95.0, "linear", default=0.0,
            help="Copies of copies.",
        ),
        Parameter(
            "stereo", "Stereo", "°", 0.0, 180.0, "linear", default=90.0,
            help="How far apart left and right waver.",
        ),
        output_level(),
    ),
    telling=("rate_hz", "mix"),
    first=("rate_hz", "swing", "mix", "stereo"),
    hatch=Pattern("waves", spacing=6.0, weight=1.0, dash=(4.0, 2.0)),
    lookback_s=0.3,
    words="thicken wider ensemble many double doubling shimmer detune",
    added={"level_db": -1.5, "mix": 35.0},
    output=OUTPUT,
    help="Wavering copies, so that one sounds like many.",
)  # fmt: skip
