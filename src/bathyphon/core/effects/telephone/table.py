"""Telephone: a voice on a line, a two-way radio, a small loudspeaker, a horn."""

from __future__ import annotations

from bathyphon.core.effects.kit.table import Parameter, Pattern, Table

BITS_OFF = 16.0
TABLE = Table(
    id="telephone",
    label="Telephone",
    place=50,
    engages="blend",
    parameters=(
        Parameter(
            "low_hz", "From", "Hz", 20.0, 2000.0, "log", default=300.0,
            help="Lower edge of the line; 300 Hz is a telephone, 700 Hz a cheap one.",
        ),
        Parameter(
            "high_hz", "To", "Hz", 800.0, 16000.0, "log", default=3400.0,
            help="Upper edge of the line; 3400 Hz is a telephone, 7000 Hz a modern one.",
        ),
        Parameter(
            "drive_db", "Drive", "dB", 0.0, 40.0, "db", default=0.0,
            help="Overdriven, as by shouting into a small microphone.",
        ),
        Parameter(
            "noise_db", "Noise", "dB", -96.0, -10.0, "db", default=-96.0,
            help="Hiss of the line, under the voice and in its pauses.",
        ),
        Parameter(
            "bits", "Bits", "", 3.0, BITS_OFF, "linear", default=BITS_OFF,
            help="Coarse coding: 8 is a telephone exchange, 5 a bad connection, 16 none.",
        ),
        Parameter(
            "level_db", "Level", "dB", -96.0, 12.0, "db", default=-3.0,
            help="A voice on the phone lies below those in the room.",
        ),
    ),
    telling=("low_hz", "high_hz"),
    hatch=Pattern("crossed", angle=45.0, spacing=6.0, weight=1.0),
    lookback_s=0.1,
    words="phone call radio walkie talkie loudspeaker speaker megaphone intercom "
    "band lofi lo fi television tv",
    for_level=True,
    help="A voice on a line, a radio, a small loudspeaker.",
)  # fmt: skip
