"""A whole file in memory, for commands that work on one."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.errors import Refused
from bathyphon.formats.decode import probe

Blocks = Callable[[Path], Iterator[NDArray[np.float32]]]


def whole_sound(source: Path, blocks: Blocks) -> tuple[NDArray[np.float32], int]:
    """A file's sound, shape (channels, n), and its rate; what is not a number is silence.

    Raises
    ------
    Refused
        If the file holds no sound, or none that lasts.
    """
    sound = probe(source).sound
    if sound is None:
        raise Refused(f"“{source.name}” holds no sound")
    x = np.concatenate(list(blocks(source)), axis=1) + np.float32(0)
    x[~np.isfinite(x)] = 0.0
    if x.shape[1] == 0:
        raise Refused(f"“{source.name}” holds no samples")
    return x, sound.rate
