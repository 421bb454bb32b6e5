"""Equaliser: up to eight bands, each a cut, a shelf, a peak or a notch."""

from __future__ import annotations

from bathyphon.core.effects.kit.table import (
    OUTPUT,
    CountsFor,
    Group,
    Parameter,
    Pattern,
    Table,
    output_level,
)

TYPES = ("low_cut", "low_shelf", "peak", "high_shelf", "high_cut", "notch")
SLOPES = ("12", "24", "48")
CUTS = ("low_cut", "high_cut")
LIFTS = ("low_shelf", "peak", "high_shelf")
MAXIMALLY_FLAT = 0.5**0.5
BAND = Group(
    id="bands",
    label="Band",
    most=8,
    parameters=(
        Parameter(
            "type", "Type", "", 0.0, 5.0, "linear", default=2.0, movable=False, choices=TYPES,
            help="Cuts take away what lies beyond, shelves lift or lower it, a peak lifts or "
            "lowers what lies around, a notch takes out one tone.",
        ),
        Parameter(
            "freq_hz", "Frequency", "Hz", 20.0, 20000.0, "log", default=1000.0,
            help="Where the band lies.",
        ),
        Parameter(
            "gain_db", "Gain", "dB", -24.0, 24.0, "db", default=0.0, neutral=0.0,
            help="How far it lifts or lowers.", counts_for=CountsFor("type", LIFTS),
        ),
        Parameter(
            "q", "Q", "", 0.1, 24.0, "log", default=MAXIMALLY_FLAT,
            help="How narrow it is; for a cut, how much its edge rings: 0.71 not at all.",
        ),
        Parameter(
            "slope", "Slope", "dB/oct", 0.0, 2.0, "linear", default=0.0, movable=False,
            choices=SLOPES, help="How steep a cut is.", counts_for=CountsFor("type", CUTS),
        ),
    ),
)  # fmt: skip
TABLE = Table(
    id="eq",
    label="Equaliser",
    place=70,
    engages="sweep",
    parameters=(output_level(sweeps=True),),
    telling=(),
    hatch=Pattern("lines", angle=0.0, spacing=9.0, weight=2.0, dash=(8.0, 4.0)),
    lookback_s=0.25,
    group=BAND,
    words="equalizer equalise eq filter band bands high pass highpass low lowpass shelf "
    "peak notch hum rumble cut boost frequency",
    output=OUTPUT,
    help="Up to eight bands: cuts, shelves, peaks and notches.",
)
