"""Phaser: notches that wander through the sound."""

from __future__ import annotations

from bathyphon.core.effects.kit.table import OUTPUT, Parameter, Pattern, Table, output_level

TABLE = Table(
    id="phaser",
    label="Phaser",
    place=160,
    engages="blend",
    parameters=(
        Parameter(
            "rate_hz", "Rate", "Hz", 0.02, 10.0, "log", default=0.4, help="Swings a second.",
        ),
        Parameter(
            "swing", "Swing", "%", 0.0, 100.0, "linear", default=70.0,
            help="How far the notches wander; at 100 % two octaves each way.",
        ),
        Parameter(
            "feedback", "Feedback", "%", -95.0, 95.0, "linear", default=30.0,
            help="How sharp the peaks between the notches are.",
        ),
        Parameter(
            "delay_ms", "Delay", "ms", 0.02, 1.0, "log", default=0.2,
            help="How long each stage holds the sound back: the longer, the lower the notches.",
        ),
        Parameter(
            "stereo", "Stereo", "°", 0.0, 180.0, "linear", default=60.0,
            help="How far apart left and right swing.",
        ),
        Parameter(
            "mix", "Mix", "%", 0.0, 100.0, "linear", default=50.0,
            help="At 50 % the notches are deepest.",
        ),
        output_level(),
    ),
    telling=("rate_hz", "swing"),
    first=("rate_hz", "swing", "feedback", "stereo"),
    hatch=Pattern("waves", angle=-45.0, spacing=10.0, weight=1.8),
    lookback_s=0.2,
    words="sweep swirl dream dizzy psychedelic drift",
    added={"level_db": -3.5},
    output=OUTPUT,
    help="Notches that wander through the sound: softer than a flanger.",
)  # fmt: skip
