"""Which frequencies sound, and how loud: a spectrogram."""

from __future__ import annotations

from bathyphon.core.analysis.bands import band_powers, edges_of, middles_of
from bathyphon.core.analysis.frames import frame_size, mean_power, moments
from bathyphon.core.analysis.kind import Kind, Settings, Source, average, decibels
from bathyphon.core.arrays import Floats


def _reach(settings: Settings, rate: int) -> tuple[int, int]:
    half = frame_size(settings.sharp, rate) // 2
    return half, half


def _second(source: Source, index: int, columns: int, settings: Settings) -> Floats:
    rate = source.rate
    frame = frame_size(settings.sharp, rate)
    half = frame // 2
    sound = source.sound(index * rate - half, (index + 1) * rate + half)
    power = mean_power(sound, moments(columns, frame, rate) + half, frame)
    return band_powers(power, rate, edges_of(settings.axis, rate))


KIND = Kind(
    id="spectrum",
    label="Spectrogram",
    help="Which frequencies sound, and how loud: each column is a moment, low is at the bottom.",
    place=1,
    finest=200,
    rows=lambda settings, rate: middles_of(settings.axis, rate).tolist(),
    reach=_reach,
    second=_second,
    fold=average,
    shown=decibels,
    fraction=100,
    unit="dB",
)
