"""Vibrato: the pitch swings."""

from __future__ import annotations

from bathyphon.core.dsp.wave_shapes import SHAPES
from bathyphon.core.effects.kit.table import Parameter, Pattern, Table

TABLE = Table(
    id="vibrato",
    label="Vibrato",
    place=130,
    engages="blend",
    parameters=(
        Parameter(
            "rate_hz", "Rate", "Hz", 0.5, 20.0, "log", default=5.5, help="Swings a second.",
        ),
        Parameter(
            "swing", "Swing", "cents", 0.0, 200.0, "linear", default=40.0,
            help="How far the pitch swings each way; 100 cents are a semitone.",
        ),
        Parameter(
            "shape", "Shape", "", 0.0, 2.0, "linear", default=0.0, movable=False, choices=SHAPES,
            help="How the pitch swings: sine is soft, triangle even, square in steps.",
        ),
        Parameter(
            "stereo", "Stereo", "°", 0.0, 180.0, "linear", default=0.0,
            help="How far apart left and right swing.",
        ),
    ),
    telling=("rate_hz", "swing"),
    first=("rate_hz", "swing", "shape", "stereo"),
    hatch=Pattern("waves", spacing=12.0, weight=1.2),
    lookback_s=0.2,
    words="wobble oscillate wow flutter tape warble waver seasick drunk pitch modulation lfo",
    help="The pitch swings: an old tape, a nervous voice, a drowsy radio.",
)  # fmt: skip
