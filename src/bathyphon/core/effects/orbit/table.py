"""Orbit: a sound that moves around the head, for headphones and for loudspeakers."""

from __future__ import annotations

from bathyphon.core.effects.kit.table import Parameter, Pattern, Table

NEAREST_M = 0.25
TABLE = Table(
    id="orbit",
    label="Orbit",
    place=110,
    engages="blend",
    parameters=(
        Parameter(
            "azimuth", "Direction", "°", -3600.0, 3600.0, "linear", default=90.0,
            help="0° is in front, 90° to the right, 180° behind; 360° and more go on around.",
        ),
        Parameter(
            "distance", "Distance", "m", NEAREST_M, 60.0, "log", default=1.0,
            help="Nearer is louder; from afar the treble is lost in the air.",
        ),
        Parameter(
            "spread", "Spread", "%", 0.0, 100.0, "linear", default=25.0,
            help="How wide the sound itself is; 0 % is a point.",
        ),
    ),
    telling=("azimuth", "distance"),
    hatch=Pattern("rings", spacing=24.0, weight=1.2),
    lookback_s=0.05,
    words="around circle head binaural 3d surround fly by flyby pass passes move moving "
    "movement distance",
    for_level=True,
    help="Moves the sound around the head.",
)  # fmt: skip
