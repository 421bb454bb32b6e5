"""The waveform: how far the sound reaches up and down, and its RMS."""

from __future__ import annotations

import numpy as np

from bathyphon.core.analysis.kind import Kind, Settings, Source, divided, means_of
from bathyphon.core.arrays import Floats

LOW, HIGH, POWER = range(3)


def _second(source: Source, index: int, columns: int, settings: Settings) -> Floats:
    rate = source.rate
    sound = source.sound(index * rate, (index + 1) * rate)
    firsts = divided(columns, rate)
    out = np.empty((columns, 3))
    out[:, LOW] = np.minimum.reduceat(sound.min(axis=0), firsts)
    out[:, HIGH] = np.maximum.reduceat(sound.max(axis=0), firsts)
    out[:, POWER] = means_of(np.mean(sound * sound, axis=0), columns)
    return out


def _fold(parts: Floats) -> Floats:
    low, high, power = parts[..., LOW], parts[..., HIGH], parts[..., POWER]
    return np.stack([low.min(axis=1), high.max(axis=1), power.mean(axis=1)], axis=1)


def _shown(values: Floats) -> Floats:
    shown = values.copy()
    shown[..., POWER] = np.sqrt(values[..., POWER])
    return shown


KIND = Kind(
    id="wave",
    label="Waveform",
    help="The sound as it comes out, treatments included; darker inside is the RMS.",
    place=0,
    finest=200,
    rows=lambda settings, rate: ["lowest", "highest", "RMS"],
    reach=lambda settings, rate: (0, 0),
    second=_second,
    fold=_fold,
    shown=_shown,
    # Sixteen times full scale, 24 dB over, can still be told.
    fraction=2000,
    unit="of full scale",
)
