"""Pitch: higher or lower in the same time, formants going along or staying."""

from __future__ import annotations

from bathyphon.core.dsp.notes import SCALES
from bathyphon.core.effects.kit.pitch_rows import FORMANTS, KEY, LOOKBACK_S, MATERIAL
from bathyphon.core.effects.kit.table import OUTPUT, Parameter, Pattern, Table, output_level

TABLE = Table(
    id="pitch",
    label="Pitch",
    place=80,
    engages="blend",
    parameters=(
        Parameter(
            "semitones", "Semitones", "st", -24.0, 24.0, "linear", default=0.0,
            help="Twelve are an octave: +12 doubles every frequency, −12 halves it.",
        ),
        Parameter(
            "formant_shift", "Formants by", "st", -12.0, 12.0, "linear", default=0.0,
            help="Size of the speaker: below zero larger, above zero smaller; the note stays.",
        ),
        Parameter(
            "mix", "Mix", "%", 0.0, 100.0, "linear", default=100.0,
            help="Up to 50 % the direct sound stays whole; at 100 % only the moved one is left.",
        ),
        Parameter(
            "cents", "Cents", "ct", -100.0, 100.0, "linear", default=0.0,
            help="Hundredths of a semitone.",
        ),
        FORMANTS,
        MATERIAL,
        Parameter(
            "tune", "Tune", "%", 0.0, 100.0, "linear", default=0.0,
            help="Draws every note towards the nearest one of the scale; a voice on one note is a "
            "machine's.",
        ),
        Parameter(
            "scale", "Scale", "", 0, len(SCALES) - 1, "linear", default=0, movable=False,
            choices=tuple(SCALES), help="Notes that there are to tune to.",
        ),
        KEY,
        output_level(),
    ),
    telling=("semitones", "formant_shift"),
    first=("semitones", "cents", "formant_shift", "mix"),
    hatch=Pattern("steps", spacing=12.0, weight=1.6),
    lookback_s=LOOKBACK_S,
    words="deeper lower higher transpose tune semitone voice change chipmunk monster "
    "creature disguise anonymous formant robot octave shift",
    output=OUTPUT,
    help="Higher or lower in the same time, for voices, creatures and machines.",
)  # fmt: skip
