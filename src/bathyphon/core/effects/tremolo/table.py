"""Tremolo: the level swings."""

from __future__ import annotations

from bathyphon.core.dsp.wave_shapes import SHAPES
from bathyphon.core.effects.kit.table import Parameter, Pattern, Table

TABLE = Table(
    id="tremolo",
    label="Tremolo",
    place=120,
    engages="blend",
    parameters=(
        Parameter(
            "rate_hz", "Rate", "Hz", 0.05, 40.0, "log", default=5.0, help="Swings a second.",
        ),
        Parameter(
            "swing", "Swing", "%", 0.0, 100.0, "linear", default=60.0,
            help="How far the level falls; at 100 % down to silence.",
        ),
        Parameter(
            "shape", "Shape", "", 0.0, 2.0, "linear", default=0.0, movable=False, choices=SHAPES,
            help="Sine is soft, triangle even, square chops.",
        ),
        Parameter(
            "stereo", "Stereo", "°", 0.0, 180.0, "linear", default=0.0,
            help="At 180° left and right take turns.",
        ),
    ),
    telling=("rate_hz", "swing"),
    first=("rate_hz", "swing", "shape", "stereo"),
    hatch=Pattern("waves", angle=90.0, spacing=9.0, weight=1.5),
    words="wobble oscillate pulse pulsing helicopter flicker stutter throb level modulation "
    "lfo",
    for_level=True,
    help="The level swings: a helicopter, a fan, a nervous light.",
)  # fmt: skip
