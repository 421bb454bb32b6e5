"""Impulse responses of four paths, kept beside the stereo form of a file with four channels."""

from __future__ import annotations

import os
from pathlib import Path

import numpy as np
import soxr
from numpy.typing import NDArray

from bathyphon.formats.decode import sound_blocks

PATHS = 4
# Longer files of four channels are recordings, not responses.
LONGEST_SECONDS = 60.0


def paths_beside(target: Path) -> Path:
    """Where the four paths of a conformed file lie, if it has them."""
    return target.with_suffix(".paths.npy")


def keep_paths(source: Path, target: Path, rate: int, source_rate: int, stream: int = 0) -> None:
    """Store a file's four channels unfolded, at the reel's rate, beside its conformed sound."""
    blocks = [
        np.nan_to_num(block, posinf=0.0, neginf=0.0) for block in sound_blocks(source, stream)
    ]
    sound = np.concatenate(blocks, axis=1)
    if source_rate != rate:
        sound = soxr.resample(sound.T, source_rate, rate, quality="VHQ").T
    partial = target.with_name(f"{target.name}.{os.getpid()}.paths.part")
    with partial.open("wb") as file:
        np.save(file, np.ascontiguousarray(sound, np.float32))
    partial.replace(paths_beside(target))


def read_paths(target: Path) -> NDArray[np.float32] | None:
    """The four paths beside a conformed file, shape (4, n): left to left, left to right, …"""
    path = paths_beside(target)
    return np.load(path) if path.is_file() else None
