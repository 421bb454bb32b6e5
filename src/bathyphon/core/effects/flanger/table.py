"""Flanger and chorus: copies of the sound whose delay swings."""

from __future__ import annotations

from bathyphon.core.effects.kit.table import OUTPUT, Parameter, Pattern, Table, output_level

TABLE = Table(
    id="flanger",
    label="Flanger",
    place=150,
    engages="blend",
    parameters=(
        Parameter(
            "rate_hz", "Rate", "Hz", 0.02, 10.0, "log", default=0.25, help="Swings a second.",
        ),
        Parameter(
            "swing", "Swing", "%", 0.0, 100.0, "linear", default=85.0,
            help="How far the delay comes down on its way.",
        ),
        Parameter(
            "feedback", "Feedback", "%", -95.0, 95.0, "linear", default=45.0,
            help="How sharp the comb is; below zero it sounds hollow.",
        ),
        Parameter(
            "delay_ms", "Delay", "ms", 0.2, 15.0, "log", default=4.0,
            help="The longest delay: the longer, the deeper the comb begins.",
        ),
        Parameter(
            "stereo", "Stereo", "°", 0.0, 180.0, "linear", default=60.0,
            help="How far apart left and right swing.",
        ),
        Parameter(
            "mix", "Mix", "%", 0.0, 100.0, "linear", default=50.0,
            help="At 50 % direct sound and copy are equally loud, and the comb is deepest.",
        ),
        output_level(),
    ),
    telling=("rate_hz", "swing"),
    first=("rate_hz", "swing", "feedback", "stereo"),
    hatch=Pattern("waves", angle=45.0, spacing=8.0, weight=1.2),
    lookback_s=0.2,
    words="jet sweep whoosh comb swirl dream dizzy psychedelic",
    added={"level_db": -3.5},
    output=OUTPUT,
    help="A comb that sweeps through the sound: jet engines, dreams, dizziness.",
)  # fmt: skip
