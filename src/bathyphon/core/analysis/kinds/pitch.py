"""The pitch of a voice or of a melody over time."""

from __future__ import annotations

import warnings

import numpy as np

from bathyphon.core.analysis.kind import Kind, Settings, Source
from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.pitch import note_of, pitch_at, reach

LOOKS = 50
"""In each second at least, so that a column of a tenth of a second is not one look's chance."""


def _second(source: Source, index: int, columns: int, settings: Settings) -> Floats:
    rate = source.rate
    margin = reach(rate) + 1
    sound = source.sound(index * rate - margin, (index + 1) * rate + margin)
    each = max(1, LOOKS // columns)
    count = columns * each
    at = ((np.arange(count) + 0.5) * rate / count).astype(np.int64)
    notes = note_of(pitch_at(sound.mean(axis=0), at + margin, rate))
    return _fold(notes.reshape(columns, each, 1))


def _fold(parts: Floats) -> Floats:
    with warnings.catch_warnings():
        # A column without any pitch has none.
        warnings.simplefilter("ignore", RuntimeWarning)
        return np.asarray(np.nanmedian(parts, axis=1))


KIND = Kind(
    id="pitch",
    label="Pitch",
    help="The note that is sung or spoken, where there is one: one voice or melody at a time.",
    place=4,
    finest=LOOKS,
    rows=lambda settings, rate: ["note"],
    reach=lambda settings, rate: (reach(rate) + 1, reach(rate) + 1),
    second=_second,
    fold=_fold,
    shown=lambda values: values,
    fraction=100,
    unit="semitones",
)
