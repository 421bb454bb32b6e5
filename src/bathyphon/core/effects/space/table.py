"""Space: the sound in a place whose impulse response is known, by convolution."""

from __future__ import annotations

from bathyphon.core.effects.kit.table import (
    OUTPUT,
    Parameter,
    Pattern,
    Reference,
    Table,
    output_level,
)

LOUDNESS = ("as recorded", "alike")
SPACES = (
    "cell", "parlour", "washroom", "stairwell", "playhouse", "nave", "tank", "air_bell", "cavern",
    "plate", "spring", "pipe", "barrel",
)  # fmt: skip
LONGEST_PREDELAY_MS = 500.0
LONGEST_SECONDS = 30
TABLE = Table(
    id="space",
    label="Place",
    place=30,
    engages="send",
    parameters=(
        Parameter(
            "response", "Place", "", 0.0, len(SPACES) - 1.0, "linear",
            default=float(SPACES.index("cavern")), movable=False, choices=SPACES,
            help="Rooms computed from their walls, and things that ring.",
        ),
        Parameter(
            "mix", "Mix", "%", 0.0, 100.0, "linear", default=35.0,
            help="Up to 50 % the direct sound stays whole; at 100 % only the place is left.",
        ),
        Parameter(
            "stretch", "Stretch", "%", 25.0, 400.0, "log", default=100.0, movable=False,
            help="Longer is larger and deeper.",
        ),
        Parameter(
            "predelay_ms", "Pre-delay", "ms", 0.0, LONGEST_PREDELAY_MS, "linear", default=0.0,
            movable=False, help="Time before the place answers.",
        ),
        Parameter(
            "dry_db", "Direct", "dB", -96.0, 12.0, "db", default=0.0,
            help="Level of the direct sound, apart from the place.",
        ),
        Parameter(
            "loudness", "Loudness", "", 0.0, 1.0, "linear", default=0.0, movable=False,
            choices=LOUDNESS,
            help="Alike, every place answers a voice as loudly as it speaks; as recorded, a "
            "barrel is louder than a hall.",
        ),
        output_level(),
    ),
    telling=("mix", "stretch"),
    first=("response", "mix", "stretch", "dry_db"),
    hatch=Pattern("rings", spacing=20.0, weight=1.6, dash=(3.0, 3.0)),
    reference=Reference(
        "file", "Own response", "media",
        "A recorded impulse response, instead of the place; four channels are its four paths.",
        longest_s=LONGEST_SECONDS,
    ),
    words="place location room hall church convolution impulse response real cavern tank "
    "plate pipe",
    added={"loudness": "alike", "level_db": -1.5},
    output=OUTPUT,
    help="A known place or thing: a cavern, a tank, a plate, a pipe.",
)  # fmt: skip
