"""Where sound comes from between left and right, and whether both sides agree.

C. Avendano, J.-M. Jot, "A frequency-domain approach to multichannel upmix", J. Audio Eng. Soc. 52
(2004): each bin's place follows from the levels that both sides have in it.
"""

from __future__ import annotations

import numpy as np

from bathyphon.core.analysis.frames import both_sides, frame_size, moments, window_of
from bathyphon.core.analysis.kind import Kind, Settings, Source, average, decibels, means_of
from bathyphon.core.arrays import Floats
from bathyphon.core.measure.spectrum import one_sided

PLACES = 41
LEFT, RIGHT, BOTH = PLACES, PLACES + 1, PLACES + 2


def _reach(settings: Settings, rate: int) -> tuple[int, int]:
    half = frame_size("time", rate)
    return half, half


def _second(source: Source, index: int, columns: int, settings: Settings) -> Floats:
    rate = source.rate
    frame = 2 * frame_size("time", rate)
    half = frame // 2
    sound = source.sound(index * rate - half, (index + 1) * rate + half)
    at = moments(columns, frame, rate)
    turned = both_sides(sound, at.ravel() + half, frame)
    powers = np.abs(turned).astype(np.float64) ** 2
    # A constant power law: the angle of what both sides have is its place.
    angle = np.arctan2(np.sqrt(powers[1]), np.sqrt(powers[0])) / (0.5 * np.pi)
    place = np.rint(angle * (PLACES - 1)).astype(np.int64)
    column = np.arange(columns).repeat(at.shape[1])[:, None]
    weights = one_sided(powers.mean(axis=0) / at.shape[1], window_of(frame))
    spread = np.bincount(
        (column * PLACES + place).ravel(), weights.ravel(), minlength=columns * PLACES
    ).reshape(columns, PLACES)
    inside = sound[:, half : half + rate]
    products = (inside[0] ** 2, inside[1] ** 2, inside[0] * inside[1])
    sums = np.stack([means_of(p, columns) for p in products], axis=1)
    return np.concatenate([spread, sums], axis=1)


def _shown(values: Floats) -> Floats:
    """Levels in dB, and the correlation in hundredths, NaN where there is hardly a sound."""
    product = values[..., LEFT] * values[..., RIGHT]
    quiet = product < 1e-20
    like = 100.0 * values[..., BOTH] / np.sqrt(np.where(quiet, 1.0, product))
    like = np.where(quiet, np.nan, np.clip(like, -100.0, 100.0))
    return np.concatenate([decibels(values[..., :PLACES]), like[..., None]], axis=-1)


KIND = Kind(
    id="stereo",
    label="Stereo",
    help="How loud it is at each place from left to right, and how far both sides agree.",
    place=3,
    finest=50,
    rows=lambda settings, rate: np.linspace(-100.0, 100.0, PLACES).tolist(),
    reach=_reach,
    second=_second,
    fold=average,
    shown=_shown,
    fraction=100,
    unit="dB",
    beside=("correlation",),
)
