"""Units, and how people write them. The front end reads the same table as ``spellings.json``."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Any

LEFT, RIGHT = -100.0, 100.0


@dataclass(frozen=True)
class Unit:
    """A unit that values are shown in.

    Parameters
    ----------
    measure : str
        What it measures; units of one measure can be typed in place of each other.
    size : float
        How many of the measure's base one of it is. Of ``f`` it depends on the reel.
    """

    measure: str
    size: float = 1.0


UNITS: Mapping[str, Unit] = MappingProxyType(
    {
        "ms": Unit("time"),
        "s": Unit("time", 1000.0),
        "f": Unit("time", 0.0),
        "Hz": Unit("frequency"),
        "dB": Unit("level"),
        "%": Unit("share"),
        "×": Unit("factor"),
        ":1": Unit("ratio"),
        "st": Unit("pitch"),
        "ct": Unit("pitch", 0.01),
        "cents": Unit("pitch", 0.01),
        "°": Unit("angle"),
        "m": Unit("distance"),
        "°C": Unit("temperature"),
        "bpm": Unit("pace"),
        "per min": Unit("pace"),
        "/s": Unit("pace", 60.0),
        "LUFS": Unit("loudness"),
        "LU": Unit("loudness difference"),
        "dBTP": Unit("true peak"),
        "dBFS": Unit("full scale"),
    }
)
"""Every unit of the tables and of the thresholds, but those of choices."""


def _all(size: float, *words: str) -> dict[str, float]:
    return dict.fromkeys(words, size)


SPELLINGS: Mapping[str, Mapping[str, float]] = MappingProxyType(
    {
        # In milliseconds; frames, metres and beats are what they are where they are typed.
        "time": _all(1.0, "ms", "msec", "millisecond", "milliseconds")
        | _all(1000.0, "s", "sec", "secs", "second", "seconds")
        | _all(60000.0, "min", "minute", "minutes"),
        "frequency": _all(1.0, "hz", "hertz") | _all(1000.0, "khz", "k", "kilohertz"),
        "level": _all(1.0, "db", "decibel", "decibels"),
        "share": _all(1.0, "%", "percent") | _all(100.0, "×", "x", "times"),
        "factor": _all(1.0, "×", "x", "times") | _all(0.01, "%", "percent"),
        "ratio": _all(1.0, ":1", ": 1", "to 1"),
        # In semitones.
        "pitch": _all(1.0, "st", "semi", "semis", "semitone", "semitones")
        | _all(0.01, "ct", "cent", "cents")
        | _all(12.0, "oct", "octave", "octaves"),
        "angle": _all(1.0, "°", "deg", "degree", "degrees") | _all(360.0, "turn", "turns"),
        # In metres.
        "distance": _all(1.0, "m", "metre", "metres", "meter", "meters")
        | _all(0.01, "cm")
        | _all(0.3048, "ft", "foot", "feet"),
        "loudness": _all(1.0, "lufs", "lkfs", "db"),
        "loudness difference": _all(1.0, "lu", "db"),
        "true peak": _all(1.0, "dbtp", "db"),
        "full scale": _all(1.0, "dbfs", "db"),
        # In times a minute.
        "pace": _all(1.0, "bpm", "per min", "per minute", "a minute", "/min")
        | _all(60.0, "per s", "per second", "a second", "/s"),
        "temperature": _all(1.0, "°c", "c", "°", "degree", "degrees"),
    }
)
"""How the units of each measure are written, and how many of its base one of each is."""

ELSEWHERE: Mapping[str, tuple[str, ...]] = MappingProxyType(
    {
        "f": ("f", "fr", "frame", "frames"),
        "m": ("m", "metre", "metres", "meter", "meters"),
        "beat": ("beat", "beats"),
    }
)
"""Times whose length depends on the reel, on what the sound travels through, or on the music."""

PERCENT = ("%", "percent")
"""A level may be typed as a share of the amplitude."""

SILENT = ("silent", "silence", "off", "none", "-inf", "−∞", "-∞")
"""What a level that can be none at all is called."""

SIDES: Mapping[str, float] = MappingProxyType(
    {
        "left": LEFT,
        "l": LEFT,
        "hard left": LEFT,
        "right": RIGHT,
        "r": RIGHT,
        "hard right": RIGHT,
        "middle": 0.0,
        "centre": 0.0,
        "center": 0.0,
        "c": 0.0,
        "both": 0.0,
    }
)
"""Places between the loudspeakers; a number beside a side counts towards it: “L 30”."""

SWITCH: Mapping[str, float] = MappingProxyType({"on": 1.0, "off": 0.0, "yes": 1.0, "no": 0.0})
"""What a value that is 0 or 1 is called."""


def plain() -> dict[str, Any]:
    """All of it as JSON has it."""
    return {
        "units": {name: {"measure": u.measure, "size": u.size} for name, u in UNITS.items()},
        "spellings": {measure: dict(words) for measure, words in SPELLINGS.items()},
        "elsewhere": {unit: list(words) for unit, words in ELSEWHERE.items()},
        "percent": list(PERCENT),
        "silent": list(SILENT),
        "sides": dict(SIDES),
        "switch": dict(SWITCH),
    }
