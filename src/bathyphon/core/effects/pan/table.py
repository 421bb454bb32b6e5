"""Pan: where a sound lies between left and right, and how wide it is."""

from __future__ import annotations

from bathyphon.core.effects.kit.table import Parameter, Pattern, Table

SIDES = ("as they are", "left on both", "right on both", "swapped", "right turned over")
LAWS = ("-3 dB", "-4.5 dB", "-6 dB")
TABLE = Table(
    id="pan",
    label="Pan",
    place=100,
    engages="sweep",
    parameters=(
        Parameter(
            "position", "Position", "", -100.0, 100.0, "linear", default=0.0, neutral=0.0,
            help="−100 is left alone, 100 right alone.",
        ),
        Parameter(
            "width", "Width", "%", 0.0, 200.0, "linear", default=100.0, neutral=100.0,
            help="0 % is the middle alone, above 100 % wider than it came.",
        ),
        Parameter(
            "law", "Law", "", 0.0, 2.0, "linear", default=0.0, movable=False, choices=LAWS,
            help="How loud the middle is against the sides; −3 dB keeps the power the same.",
        ),
        Parameter(
            "left_level", "Left", "%", 0.0, 150.0, "linear", default=100.0, neutral=100.0,
            help="Level of the left side alone.",
        ),
        Parameter(
            "right_level", "Right", "%", 0.0, 150.0, "linear", default=100.0, neutral=100.0,
            help="Level of the right side alone.",
        ),
        Parameter(
            "sides", "Sides", "", 0.0, 4.0, "linear", default=0.0, movable=False, choices=SIDES,
            help="One side on both where the other holds nothing; turned over where the two "
            "cancel each other.",
        ),
    ),
    telling=("position", "width"),
    hatch=Pattern("lines", angle=60.0, spacing=9.0, weight=1.2),
    words="left right side balance position stereo wider narrower widen narrow width "
    "to and fro swap sides polarity phase invert flip one-sided mono",
    help="Place a sound between left and right, or narrow and widen it.",
)  # fmt: skip
