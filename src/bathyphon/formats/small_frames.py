"""A picture's frames made small, for finding cuts; kept, so that cuts can be found again."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import av
import numpy as np

from bathyphon.core.measure.likeness import HEIGHT, WIDTH, Frames

CHUNK = 250
BYTES = HEIGHT * WIDTH * 3


class SmallFrames:
    """Writes frames, made small, to a file."""

    def __init__(self, path: Path) -> None:
        self._file = path.open("wb")

    def see(self, frame: av.VideoFrame) -> None:
        """Append one more frame."""
        small = frame.reformat(WIDTH, HEIGHT, "rgb24", interpolation="AREA")
        self._file.write(np.ascontiguousarray(small.to_ndarray()).tobytes())

    def close(self) -> None:
        """Finish the file."""
        self._file.close()


def read_frames(path: Path) -> Iterator[Frames]:
    """Chunks of shape (n, 36, 64, 3) in order, without holding all of them."""
    with path.open("rb") as file:
        while data := file.read(CHUNK * BYTES):
            yield np.frombuffer(data, np.uint8).reshape(-1, HEIGHT, WIDTH, 3)
