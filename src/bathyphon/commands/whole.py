"""A whole file in memory, for commands that work on one."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from pathlib import Path
from tempfile import TemporaryDirectory

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
    with TemporaryDirectory(prefix="bathyphon-") as folder:
        x, rate = stored_sound(source, blocks, Path(folder))
        return np.array(x), rate


def stored_sound(source: Path, blocks: Blocks, folder: Path) -> tuple[NDArray[np.float32], int]:
    """A file's sound on disk, decoded, shape (channels, n), and its rate.

    However long it is, it takes little memory.

    Parameters
    ----------
    source : Path
    blocks : callable
        Decodes it.
    folder : Path
        Where it may be put; it must stay for as long as the sound is used.

    Raises
    ------
    Refused
        If the file holds no sound, or none that lasts.
    """
    sound = probe(source).sound
    if sound is None:
        raise Refused(f"“{source.name}” holds no sound")
    path = folder / "sound.f32"
    channels = samples = 0
    with path.open("wb") as file:
        for block in blocks(source):
            channels = block.shape[0]
            samples += block.shape[1]
            file.write(np.where(np.isfinite(block), block, np.float32(0)).T.tobytes())
    if samples == 0:
        raise Refused(f"“{source.name}” holds no samples")
    stored = np.memmap(path, np.float32, "r", shape=(samples, channels))
    return stored.T, sound.rate
