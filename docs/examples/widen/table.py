"""Widen: a sound that is broader than it came, and the same when it is heard in mono."""

from __future__ import annotations

from bathyphon.core.effects.kit.table import Parameter, Pattern, Table

TABLE = Table(
    id="widen",
    label="Widen",
    place=105,
    engages="sweep",
    parameters=(
        Parameter(
            "width", "Width", "%", 0.0, 100.0, "linear", default=50.0, neutral=0.0,
            help="How loud the delayed middle is on both sides.",
        ),
        Parameter(
            "delay_ms", "Delay", "ms", 1.0, 40.0, "log", default=14.0, movable=False,
            help="How late it is: short ones colour the sound, long ones echo.",
        ),
    ),
    telling=("width", "delay_ms"),
    hatch=Pattern("lines", angle=25.0, spacing=7.0, weight=1.2, dash=(2.0, 3.0)),
    lookback_s=0.05,
    words="wider broaden spread stereo delay",
    help="Broader than it came: ambience, pads, a voice that fills the picture.",
)  # fmt: skip
