"""Reverb: a room whose decay time is the one that is set, ringing out past a cut."""

from __future__ import annotations

from bathyphon.core.effects.kit.table import OUTPUT, Parameter, Pattern, Table, output_level

LONGEST_PREDELAY_MS = 500.0
TABLE = Table(
    id="reverb",
    label="Reverb",
    place=20,
    engages="send",
    parameters=(
        Parameter(
            "decay_s", "Decay", "s", 0.1, 30.0, "log", default=1.8,
            help="The time in which the room falls by 60 dB.",
        ),
        Parameter(
            "size", "Size", "%", 10.0, 200.0, "log", default=100.0,
            help="From a cupboard to a hall: how far the walls are apart.",
        ),
        Parameter(
            "mix", "Mix", "%", 0.0, 100.0, "linear", default=35.0,
            help="Up to 50 % the direct sound stays whole; at 100 % only the room is left.",
        ),
        Parameter(
            "predelay_ms", "Pre-delay", "ms", 0.0, LONGEST_PREDELAY_MS, "linear", default=12.0,
            help="Time before the room answers; a larger one keeps words clear.",
        ),
        Parameter(
            "treble_decay", "Treble decay", "×", 0.1, 2.0, "log", default=0.6,
            help="Decay above 2.8 kHz as a share of the middle: below 1 is soft, as with curtains.",
        ),
        Parameter(
            "bass_decay", "Bass decay", "×", 0.1, 3.0, "log", default=1.1,
            help="Decay below 350 Hz as a share of the middle: above 1 is cavernous.",
        ),
        Parameter(
            "early_db", "Early", "dB", -96.0, 12.0, "db", default=-9.0,
            help="The first reflections, by which one hears how near the walls are.",
        ),
        Parameter(
            "diffusion", "Diffusion", "%", 0.0, 100.0, "linear", default=85.0,
            help="Low: single reflections, as from bare stone; high: smooth from the start.",
        ),
        Parameter(
            "width", "Width", "%", 0.0, 200.0, "linear", default=100.0,
            help="Stereo width of the room; the direct sound keeps its own.",
        ),
        Parameter(
            "low_cut_hz", "Low cut", "Hz", 10.0, 2000.0, "log", default=10.0,
            help="Takes rumble from the room's sound.",
        ),
        Parameter(
            "high_cut_hz", "High cut", "Hz", 200.0, 20000.0, "log", default=20000.0,
            help="Takes brightness from the room's sound.",
        ),
        Parameter(
            "freeze", "Freeze", "", 0.0, 1.0, "linear", default=0.0, whole=True,
            help="Holds what rings at this moment for ever, and lets nothing new in.",
        ),
        Parameter(
            "dry_db", "Direct", "dB", -96.0, 12.0, "db", default=0.0,
            help="Level of the direct sound, apart from the room.",
        ),
        output_level(),
    ),
    telling=("decay_s", "size", "mix"),
    first=("decay_s", "size", "mix", "dry_db"),
    hatch=Pattern("rings", spacing=14.0, weight=1.2),
    words="room hall church cathedral ambience tail ring out rings space echoey "
    "reverberation verb distance far away",
    added={"level_db": -2.0},
    output=OUTPUT,
    help="A room around the sound, which rings out past a cut.",
)  # fmt: skip
