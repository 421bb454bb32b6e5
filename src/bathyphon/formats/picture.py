"""Pictures: a proxy that a browser seeks by frame, and a strip of small frames."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import asdict
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
from av.video.reformatter import VideoReformatter
from PIL import Image

from bathyphon.core.errors import Refused
from bathyphon.core.measure.shots import find_cuts
from bathyphon.formats.decode import PictureStream, decoded_frames, opened
from bathyphon.formats.proxy import ProxyWriter
from bathyphon.formats.small_frames import SmallFrames, read_frames

STRIP_HEIGHT = 64
STRIP_COLUMNS = 20
STRIP_MOST = 240


def prepare_picture(
    source: Path, folder: Path, stream: PictureStream, progress: Callable[[float], None]
) -> dict[str, Any]:
    """Make ``proxy.mp4``, ``strip.jpg`` and ``small.u8``; returns what the player needs to know.

    The proxy has a constant frame rate, a key frame every 12 frames and no sound, so that frame
    *n* is what a browser shows at (n + ½) / rate seconds.
    """
    strip = _Strip(stream)
    target = folder / "proxy.mp4"
    seen = folder / "small.u8"
    seen.unlink(missing_ok=True)
    small = SmallFrames(seen)
    frames = 0

    def look(index: int, frame: av.VideoFrame) -> None:
        strip.see(index, frame)
        small.see(frame)

    with ProxyWriter(target, stream) as proxy, ThreadPoolExecutor(1) as beside:
        for index, frame in _constant_rate(source, stream):
            looked = beside.submit(look, index, frame)
            proxy.see(index, frame)
            looked.result()
            frames = index + 1
            progress(min(1.0, frames / max(1, stream.frames)))
    small.close()
    if frames == 0:
        raise Refused(f"“{source.name}” holds a picture that cannot be decoded")
    layout = strip.save(folder / "strip.jpg")
    return {
        "width": stream.width,
        "height": stream.height,
        "rate": f"{stream.rate.numerator}/{stream.rate.denominator}",
        "frames": frames,
        "strip": layout,
        "cuts": found_cuts(seen, float(stream.rate)),
        "sensitivity": 0.5,
    }


def found_cuts(seen: Path, rate: float, sensitivity: float = 0.5) -> list[dict[str, Any]]:
    """Cuts in a file of small frames, as plain data."""
    return [asdict(cut) for cut in find_cuts(read_frames(seen), rate, sensitivity)]


def _constant_rate(source: Path, stream: PictureStream) -> Iterator[tuple[int, av.VideoFrame]]:
    """Frames at the constant rate: each is shown from its time until the next one's."""
    with opened(source) as container:
        video = container.streams.video[0]
        video.thread_type = "AUTO"
        first: Fraction | None = None
        index = 0
        last: av.VideoFrame | None = None
        for frame in decoded_frames(container, video):
            time = Fraction(frame.pts or 0) * (frame.time_base or Fraction(1, 90000))
            if first is None:
                first = time
            begins = round((time - first) * stream.rate)
            while last is not None and index < begins:
                yield index, last
                index += 1
            last = upright(frame)
        if last is not None:
            yield index, last


def upright(frame: av.VideoFrame) -> av.VideoFrame:
    """The frame as it is meant to be seen: cameras held sideways say so in the file."""
    turns = round(frame.rotation / 90) % 4
    if not turns:
        return frame
    image = np.rot90(frame.to_ndarray(format="rgb24"), turns)
    return av.VideoFrame.from_ndarray(np.ascontiguousarray(image, np.uint8), "rgb24")


class _Strip:
    """Collects small frames at even distances and lays them into one picture."""

    def __init__(self, stream: PictureStream) -> None:
        self._width = max(8, min(240, round(STRIP_HEIGHT * stream.width / stream.height)))
        self._every = max(round(stream.rate), -(-stream.frames // STRIP_MOST))
        self._frames: list[Image.Image] = []
        self._scale = VideoReformatter()

    def see(self, index: int, frame: av.VideoFrame) -> None:
        if index % self._every == 0 and len(self._frames) < 4 * STRIP_MOST:
            small = self._scale.reformat(frame, self._width, STRIP_HEIGHT, "rgb24")
            self._frames.append(Image.fromarray(small.to_ndarray()))

    def save(self, path: Path) -> dict[str, int]:
        rows = -(-len(self._frames) // STRIP_COLUMNS)
        sheet = Image.new("RGB", (self._width * STRIP_COLUMNS, STRIP_HEIGHT * rows))
        for i, image in enumerate(self._frames):
            row, column = divmod(i, STRIP_COLUMNS)
            sheet.paste(image, (column * self._width, row * STRIP_HEIGHT))
        sheet.save(path, quality=80)
        layout = {
            "width": self._width,
            "height": STRIP_HEIGHT,
            "columns": STRIP_COLUMNS,
            "count": len(self._frames),
            "every": self._every,
        }
        path.with_suffix(".json").write_text(json.dumps(layout))
        return layout
