"""How much sound a change of speed or pitch needs around each sample: plain arithmetic.

It is asked for before any sound is computed, so nothing that computes sound is imported here.
"""

from __future__ import annotations

import numpy as np

RETURNS = (4.0, 8.0)
"""Times that reach after which the map is back on its line; the longer where time goes slowly."""
CROSSINGS = 32
"""Zero crossings of the sinc on each side, at full bandwidth."""
EDGE = 0.96
"""Share of the band that is kept; the rest is for the filter to fall in."""
FARTHEST_ST = 12.0
"""Semitones that it moves at most."""

MARGIN_S = 0.1
"""Seconds of sound beyond a place that its reading speed may need."""
LEAST_CHUNK = 2048
BLOCK = 4096


def frame_size(sample_rate: int) -> int:
    """Samples of a frame: 2,048 at 48 kHz."""
    return int(2 ** round(np.log2(2048 * sample_rate / 48000)))


def farthest(frame: int) -> int:
    """Samples of the output that an attack reaches, at most."""
    return int(RETURNS[-1] * (frame // 2))


def reach_of(speed: float) -> int:
    """Samples on each side that a value at this reading speed is made of."""
    return int(np.ceil(CROSSINGS * max(speed, 1.0) / EDGE)) + 1


def chunk_size(sample_rate: int) -> int:
    """Samples that are computed at once where sound arrives block by block: a frame at least."""
    return max(LEAST_CHUNK, frame_size(sample_rate))


def lookahead(lowest: float, sample_rate: int, tracked: bool = False) -> int:
    """Samples of input that are needed beyond a sample of the output.

    Parameters
    ----------
    lowest : float
        Smallest factor by which frequencies are multiplied.
    sample_rate : int
    tracked : bool
        Whether pitch is followed besides.
    """
    frame = frame_size(sample_rate)
    ahead = 4 * chunk_size(sample_rate) + 3 * farthest(frame)
    if tracked:
        lowest *= 2.0 ** (-FARTHEST_ST / 12.0)
        ahead += int(MARGIN_S * sample_rate)
    return int((ahead + reach_of(4.0)) / min(lowest, 1.0)) + 2 * frame + 4 * BLOCK
