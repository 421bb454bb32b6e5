"""Peaks for drawing: smallest, largest and RMS value at several resolutions."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from bathyphon.formats.conform import ConformedFile

FINEST = 256
FACTOR = 4
LEVELS = 5
PROFILE_SECONDS = 0.5
_BLOCK = FINEST * FACTOR ** (LEVELS - 1) * 16


def level_sizes() -> list[int]:
    """Samples a peak stands for, per level."""
    return [FINEST * FACTOR**i for i in range(LEVELS)]


def write_peaks(sound: ConformedFile, folder: Path, rate: int, name: str) -> None:
    """Write ``peaks-SIZE-NAME.i16`` for every level and ``profile-NAME.f32``.

    A peak is three int16: smallest, largest and RMS of both sides, full scale 32767. The profile
    is the mean power of each half second, float32.
    """
    files = [(folder / f"peaks-{size}-{name}.i16").open("wb") for size in level_sizes()]
    try:
        for start in range(0, sound.samples, _BLOCK):
            block = sound.read(start, min(start + _BLOCK, sound.samples))
            low, high, power = _finest(block)
            for file in files:
                np.stack([_int16(low), _int16(high), _int16(np.sqrt(power))], axis=1).tofile(file)
                low, high, power = (
                    _coarser(low, np.min),
                    _coarser(high, np.max),
                    _coarser(power, np.mean),
                )
    finally:
        for file in files:
            file.close()
    hop = round(PROFILE_SECONDS * rate)
    powers = [
        _power(sound.read(a, min(a + hop, sound.samples))) for a in range(0, sound.samples, hop)
    ]
    np.array(powers, np.float32).tofile(folder / f"profile-{name}.f32")


def _power(block: NDArray[np.float32]) -> float:
    return float(np.vdot(block, block)) / max(1, block.size)


def _finest(
    block: NDArray[np.float32],
) -> tuple[NDArray[np.float32], NDArray[np.float32], NDArray[np.float32]]:
    whole = -(-block.shape[1] // FINEST) * FINEST
    if whole != block.shape[1]:
        block = np.pad(block, ((0, 0), (0, whole - block.shape[1])), mode="edge")
    cells = block.reshape(2, -1, FINEST)
    power = np.einsum("cnk,cnk->n", cells, cells) / np.float32(2 * FINEST)
    return cells.min(axis=2).min(axis=0), cells.max(axis=2).max(axis=0), power


def _coarser(values: NDArray[np.float32], how: object) -> NDArray[np.float32]:
    whole = -(-values.size // FACTOR) * FACTOR
    cells = np.pad(values, (0, whole - values.size), mode="edge").reshape(-1, FACTOR)
    result: NDArray[np.float32] = how(cells, axis=1)  # type: ignore[operator]
    return result


def _int16(values: NDArray[np.float32]) -> NDArray[np.int16]:
    whole: NDArray[np.int16] = np.clip(np.rint(values * 32767.0), -32768, 32767).astype("<i2")
    return whole
