"""Drive: an amplifier, a loudspeaker or a tape that is asked for too much."""

from __future__ import annotations

from bathyphon.core.effects.kit.table import OUTPUT, Parameter, Pattern, Table, output_level

SHAPES = ("soft", "hard", "fold")
OPEN_HZ = 20000.0
TABLE = Table(
    id="drive",
    label="Drive",
    place=180,
    engages="blend",
    parameters=(
        Parameter(
            "amount_db", "Amount", "dB", 0.0, 48.0, "db", default=18.0,
            help="How far it is overdriven.",
        ),
        Parameter(
            "tone_hz", "Tone", "Hz", 500.0, OPEN_HZ, "log", default=8000.0,
            help="Takes the edge off what is added; fully open at 20 kHz.",
        ),
        Parameter(
            "mix", "Mix", "%", 0.0, 100.0, "linear", default=100.0,
            help="Up to 50 % the direct sound stays whole; at 100 % it is gone.",
        ),
        Parameter(
            "shape", "Shape", "", 0.0, 2.0, "linear", default=0.0, movable=False, choices=SHAPES,
            help="Soft like tape, hard like a broken input, folded like a torn loudspeaker.",
        ),
        output_level(),
    ),
    telling=("amount_db", "tone_hz"),
    hatch=Pattern("dots", spacing=6.0, weight=2.2),
    lookback_s=0.05,
    words="distortion distort overdrive saturation saturate fuzz grit dirt warm clip shout "
    "megaphone crackle",
    added={"level_db": -7.5},
    output=OUTPUT,
    help="An amplifier or loudspeaker that is asked for too much.",
)  # fmt: skip
