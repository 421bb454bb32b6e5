"""What moves beside the parameters of effects: strength, level, pan, and the speed of clips; and
the one length that is typed and does not move.

``python -m bathyphon.core.edits`` prints the table for the front end.
"""

from __future__ import annotations

from dataclasses import asdict, dataclass

from bathyphon.core.effects.kit.tails import TAIL_LIMIT_SECONDS
from bathyphon.core.reel.limits import FASTEST, LEVELS, WIDEST_CENTS, WIDEST_FORMANTS, WIDEST_ST
from bathyphon.core.timing.shapes import Scale

LOWEST_DB = -60.0
"""Where the scale of a level ends; below it there is silence."""


@dataclass(frozen=True)
class Value:
    """A value with its range; all but the ring-out may move.

    Parameters
    ----------
    id : str
        Its name in the document, and at the end of its lane's.
    label, unit, help : str
    low, high, default : float
        Bounds, and the value while none is set.
    scale : {"linear", "log", "db"}
    """

    id: str
    label: str
    unit: str
    low: float
    high: float
    default: float
    scale: Scale
    help: str


STRENGTH = Value(
    "strength", "Strength", "%", 0, 100, 100, "linear", "How far the treatment is engaged."
)
LEVEL = Value(
    "gain_db", "Level", "dB", *LEVELS, 0, "db", "Louder or quieter; keyframes make it move."
)
PAN = Value("pan", "Pan", "", -100, 100, 0, "linear", "−100 is left, 100 is right.")
SPEED = Value(
    "percent", "Speed", "%", 0, FASTEST, 100, "linear",
    "Faster or slower; a line keeps its sound, its length changes.",
)  # fmt: skip
SEMITONES = Value(
    "semitones", "Pitch", "st", -WIDEST_ST, WIDEST_ST, 0, "linear",
    "Semitones up or down, beside what the speed does; twelve are an octave.",
)  # fmt: skip
CENTS = Value(
    "cents", "Cents", "ct", -WIDEST_CENTS, WIDEST_CENTS, 0, "linear", "Hundredths of a semitone."
)
FORMANTS = Value(
    "formant_shift", "Formants by", "st", -WIDEST_FORMANTS, WIDEST_FORMANTS, 0, "linear",
    "Size of the speaker: below zero larger, above zero smaller; the note stays.",
)  # fmt: skip
RING_OUT = Value(
    "ring_out", "Ring-out", "s", 0, TAIL_LIMIT_SECONDS, 0, "linear",
    "How long a treatment is heard after its end, if that is fixed.",
)  # fmt: skip
VALUES = (STRENGTH, LEVEL, PAN, SPEED, SEMITONES, CENTS, FORMANTS)


def plain() -> dict[str, dict[str, float | str]]:
    """The table by ids, each with the least that its scale shows."""
    shown = {value.id: value.low for value in VALUES} | {LEVEL.id: LOWEST_DB}
    table = {value.id: {**asdict(value), "low": shown[value.id]} for value in VALUES}
    return {**table, RING_OUT.id: asdict(RING_OUT)}
