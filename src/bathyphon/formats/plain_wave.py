"""Waves that are made while they are sent, to be listened to: stereo, 16 bits, no dither."""

from __future__ import annotations

import struct

import numpy as np
from numpy.typing import NDArray


def wave_head(rate: int, size: int) -> bytes:
    """What comes before ``size`` bytes of sound, as a RIFF wave has it.

    Its sizes have 32 bits: of what is longer the rest is read to its end all the same.
    """
    most = 2**32 - 1
    return struct.pack(
        "<4sI4s4sIHHIIHH4sI",
        b"RIFF", min(size + 36, most), b"WAVE", b"fmt ", 16, 1, 2, rate, 4 * rate, 4, 16,
        b"data", min(size, most),
    )  # fmt: skip


def wave_frames(sound: NDArray[np.float32]) -> bytes:
    """Sound of shape (2, n) as such a wave holds it."""
    return bytes(np.clip(np.rint(sound.T * 32767.0), -32768, 32767).astype("<i2").tobytes())
