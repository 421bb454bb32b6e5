"""A picture's frames made small, for finding cuts; kept, so that cuts can be found again."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import av
import numpy as np
from av.video.reformatter import ColorRange, Colorspace, VideoReformatter
from numpy.typing import NDArray

from bathyphon.core.compiled import njit
from bathyphon.core.measure.likeness import HEIGHT, WIDTH, Frames

CHUNK = 250
BYTES = HEIGHT * WIDTH * 3


class SmallFrames:
    """Writes frames, made small, to a file."""

    def __init__(self, path: Path) -> None:
        self._file = path.open("wb")
        self._planar = VideoReformatter()

    def see(self, frame: av.VideoFrame) -> None:
        """Append one more frame."""
        if frame.format.name != "yuv420p":
            frame = self._planar.reformat(frame, format="yuv420p")
        self._file.write(small_rgb(frame).tobytes())

    def close(self) -> None:
        """Finish the file."""
        self._file.close()


def small_rgb(frame: av.VideoFrame) -> NDArray[np.uint8]:
    """The mean colours of a planar frame's parts, shape (36, 64, 3).

    Whole parts are averaged, since leaving pixels out would make still grain look like motion.
    The conversion is that of Recommendations ITU-R BT.601-7 and BT.709-6.
    """
    y, u, v = (_means(plane) for plane in frame.planes)
    if frame.color_range != ColorRange.JPEG:
        y = (y - 16) * (255 / 219)
        u, v = ((x - 128) * (255 / 224) + 128 for x in (u, v))
    red, blue = (0.2126, 0.0722) if frame.colorspace == Colorspace.ITU709 else (0.299, 0.114)
    r = y + 2 * (1 - red) * (v - 128)
    b = y + 2 * (1 - blue) * (u - 128)
    g = (y - red * r - blue * b) / (1 - red - blue)
    rgb = np.stack([r, g, b], axis=-1)
    return np.clip(np.rint(rgb), 0, 255).astype(np.uint8)


def _means(plane: av.video.plane.VideoPlane) -> NDArray[np.float64]:
    rows = np.frombuffer(memoryview(plane), np.uint8).reshape(-1, plane.line_size)[: plane.height]
    means = np.empty((HEIGHT, WIDTH))
    _mean_parts(rows, plane.width, np.empty(plane.width, np.uint32), means)
    return means


@njit(cache=True, nogil=True)
def _mean_parts(
    plane: NDArray[np.uint8], width: int, line: NDArray[np.uint32], out: NDArray[np.float64]
) -> None:  # pragma: no cover - compiled
    """Mean of each part; a picture smaller than the result has its pixels repeated."""
    height = plane.shape[0]
    rows, columns = out.shape
    for i in range(rows):
        top = i * height // rows
        bottom = max(top + 1, (i + 1) * height // rows)
        line[:] = 0
        for row in range(top, bottom):
            for x in range(width):
                line[x] += plane[row, x]
        for j in range(columns):
            left = j * width // columns
            right = max(left + 1, (j + 1) * width // columns)
            total = 0
            for x in range(left, right):
                total += line[x]
            out[i, j] = total / ((bottom - top) * (right - left))


def read_frames(path: Path) -> Iterator[Frames]:
    """Chunks of shape (n, 36, 64, 3) in order, without holding all of them."""
    with path.open("rb") as file:
        while data := file.read(CHUNK * BYTES):
            yield np.frombuffer(data, np.uint8).reshape(-1, HEIGHT, WIDTH, 3)
