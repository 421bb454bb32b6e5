"""Harmony: up to eight voices at other pitches beside the direct sound."""

from __future__ import annotations

from bathyphon.core.dsp.notes import NOTES, SCALES
from bathyphon.core.effects.kit.pitch_rows import FORMANTS, KEY, LOOKBACK_S, MATERIAL
from bathyphon.core.effects.kit.table import OUTPUT, Group, Parameter, Pattern, Table, output_level

MOST = 8
LOWEST_HZ, HIGHEST_HZ = 20.0, 20000.0
"""Cuts at these take nothing away."""
LATEST_MS = 2000.0
GOES_ALONG = "goes along"
VOICE = Group(
    id="voices",
    label="Voice",
    most=MOST,
    parameters=(
        Parameter(
            "semitones", "Semitones", "st", -24.0, 24.0, "linear", default=4.0,
            help="How far from the direct sound: 4 is a major third, 7 a fifth, 12 an octave.",
        ),
        Parameter(
            "gain_db", "Gain", "dB", -60.0, 12.0, "db", default=-6.0, help="How loud it is.",
        ),
        Parameter(
            "pan", "Pan", "", -100.0, 100.0, "linear", default=0.0,
            help="Where it stands: −100 left, 100 right.",
        ),
        Parameter(
            "degree", "Steps", "", -7.0, 7.0, "linear", default=0.0, movable=False, whole=True,
            help="Steps of the scale away from the note that is sung, beside the semitones; 2 is a "
            "third.",
        ),
        Parameter(
            "note", "Note", "", 0, 12, "linear", default=0, movable=False,
            choices=(GOES_ALONG, *NOTES),
            help="The voice keeps to the nearest note of that name, whatever is sung.",
        ),
        Parameter(
            "delay_frames", "Delay", "f", 0.0, 50.0, "linear", default=0.0, movable=False,
            help="Frames behind the direct sound; about one sounds like another singer.",
        ),
        Parameter(
            "delay_ms", "Delay besides", "ms", 0.0, LATEST_MS, "linear", default=0.0,
            movable=False, help="Milliseconds behind, beside the frames.",
        ),
        Parameter(
            "cents", "Cents", "ct", -100.0, 100.0, "linear", default=0.0,
            help="Hundredths of a semitone; a few make a double.",
        ),
        Parameter(
            "low_cut_hz", "Low cut", "Hz", LOWEST_HZ, 2000.0, "log", default=LOWEST_HZ,
            help="Below this it is taken away.",
        ),
        Parameter(
            "high_cut_hz", "High cut", "Hz", 500.0, HIGHEST_HZ, "log", default=HIGHEST_HZ,
            help="Above this it is taken away.",
        ),
    ),
)  # fmt: skip
TABLE = Table(
    id="harmony",
    label="Harmony",
    place=90,
    engages="blend",
    parameters=(
        Parameter(
            "dry_db", "Direct", "dB", -96.0, 12.0, "db", default=0.0,
            help="Level of the direct sound; −96 leaves the voices alone.",
        ),
        FORMANTS,
        MATERIAL,
        Parameter(
            "scale", "Scale", "", 0, len(SCALES) - 1, "linear", default=1, movable=False,
            choices=tuple(SCALES), help="What voices that go by steps take them in.",
        ),
        KEY,
        output_level(),
    ),
    telling=("dry_db",),
    hatch=Pattern("steps", spacing=8.0, weight=1.2, dash=(4.0, 2.0)),
    lookback_s=LOOKBACK_S,
    group=VOICE,
    words="harmonise harmonize double doubling layer voices choir crowd chord thirds octave "
    "thicken",
    output=OUTPUT,
    help="Voices beside the direct sound: doubles, thirds, choirs, creatures.",
)  # fmt: skip
