"""Rows of the tables of all effects that move a pitch."""

from __future__ import annotations

from bathyphon.core.dsp.notes import NOTES
from bathyphon.core.effects.kit.table import Parameter

FORMANTS = Parameter(
    "formants", "Formants", "", 0, 1, "linear", default=1, movable=False,
    choices=("follow", "hold"),
    help="Hold keeps the speaker's size; follow makes it a smaller or larger one.",
)  # fmt: skip
MATERIAL = Parameter(
    "material", "Material", "", 0, 1, "linear", default=0, movable=False,
    choices=("voice", "music"),
    help="A single voice keeps the shape of its pulses; all else is music.",
)  # fmt: skip
KEY = Parameter(
    "key", "Key", "", 0, 11, "linear", default=0, movable=False, choices=NOTES,
    help="The scale's own note.",
)  # fmt: skip
LOOKBACK_S = 1.0
