"""Gain: a level in dB that can move."""

from __future__ import annotations

from bathyphon.core.effects.kit.table import Parameter, Pattern, Table

TABLE = Table(
    id="gain",
    label="Gain",
    place=200,
    engages="sweep",
    parameters=(
        Parameter(
            "level_db",
            "Level",
            "dB",
            -96.0,
            24.0,
            "db",
            default=-6.0,
            neutral=0.0,
            help="Louder or quieter; −96 dB is silence.",
        ),
    ),
    telling=("level_db",),
    added={"level_db": -6.0},
    hatch=Pattern("lines", angle=-45.0, spacing=10.0, weight=1.2),
    words="volume level louder quieter softer fade mute silence turn up down loudness db",
    for_level=True,
    help="Raise or lower the level.",
)
