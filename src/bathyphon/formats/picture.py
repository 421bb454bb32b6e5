"""Pictures: a proxy that a browser seeks by frame, and a strip of small frames."""

from __future__ import annotations

import json
import shutil
from collections.abc import Callable, Iterator
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
from PIL import Image

from bathyphon.core.errors import Refused
from bathyphon.formats.decode import PictureStream, decoded_frames, opened

TALLEST = 720
GROUP = 12
STRIP_HEIGHT = 64
STRIP_COLUMNS = 20
STRIP_MOST = 240


def prepare_picture(
    source: Path, folder: Path, stream: PictureStream, progress: Callable[[float], None]
) -> dict[str, Any]:
    """Make ``proxy.mp4`` and ``strip.jpg``; returns what the player needs to know.

    The proxy has a constant frame rate, a key frame every 12 frames and no sound, so that frame
    *n* is what a browser shows at (n + ½) / rate seconds.
    """
    strip = _Strip(stream)
    target = folder / "proxy.mp4"
    if _plays_as_it_is(source, stream):
        shutil.copyfile(source, target)
        frames = 0
        for index, frame in _constant_rate(source, stream):
            strip.see(index, frame)
            frames = index + 1
            progress(min(1.0, frames / max(1, stream.frames)))
    else:
        frames = _encode(source, target, stream, strip, progress)
    if frames == 0:
        raise Refused(f"“{source.name}” holds a picture that cannot be decoded")
    layout = strip.save(folder / "strip.jpg")
    return {
        "width": stream.width,
        "height": stream.height,
        "rate": f"{stream.rate.numerator}/{stream.rate.denominator}",
        "frames": frames,
        "strip": layout,
    }


def _encode(
    source: Path,
    target: Path,
    stream: PictureStream,
    strip: _Strip,
    progress: Callable[[float], None],
) -> int:
    width, height = _fitted(stream.width, stream.height)
    partial = target.with_suffix(".part.mp4")
    count = 0
    with av.open(str(partial), "w", options={"movflags": "faststart"}) as out:
        video = out.add_stream("libx264", rate=stream.rate)
        video.width, video.height = width, height
        video.pix_fmt = "yuv420p"
        video.options = {"preset": "veryfast", "crf": "23", "bf": "0", "tune": "fastdecode"}
        video.gop_size = GROUP
        video.time_base = 1 / stream.rate
        for index, frame in _constant_rate(source, stream):
            strip.see(index, frame)
            small = frame.reformat(width, height, "yuv420p")
            small.pts = index
            small.time_base = 1 / stream.rate
            small.pict_type = av.video.frame.PictureType.NONE
            out.mux(video.encode(small))
            count = index + 1
            progress(min(1.0, count / max(1, stream.frames)))
        out.mux(video.encode())
    partial.replace(target)
    return count


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
            last = frame
        if last is not None:
            yield index, last


def _plays_as_it_is(source: Path, stream: PictureStream) -> bool:
    """Whether a file already is what a proxy would be."""
    if stream.codec != "h264" or stream.height > TALLEST:
        return False
    with opened(source) as container:
        video = container.streams.video[0]
        if "mp4" not in container.format.name or video.codec_context.pix_fmt != "yuv420p":
            return False
        since_key, times = 0, []
        for packet in container.demux(video):
            if packet.pts is None:
                continue
            since_key = 0 if packet.is_keyframe else since_key + 1
            if since_key > GROUP:
                return False
            times.append(packet.pts)
    times.sort()
    base = video.time_base or Fraction(1, 90000)
    step = 1 / (stream.rate * base)
    return bool(times) and all(abs(t - times[0] - i * step) <= 1 for i, t in enumerate(times))


def _fitted(width: int, height: int) -> tuple[int, int]:
    scale = min(1.0, TALLEST / height)
    return max(2, round(width * scale / 2) * 2), max(2, round(height * scale / 2) * 2)


class _Strip:
    """Collects small frames at even distances and lays them into one picture."""

    def __init__(self, stream: PictureStream) -> None:
        self._width = max(8, min(240, round(STRIP_HEIGHT * stream.width / stream.height)))
        self._every = max(round(stream.rate), -(-stream.frames // STRIP_MOST))
        self._frames: list[Image.Image] = []

    def see(self, index: int, frame: av.VideoFrame) -> None:
        if index % self._every == 0 and len(self._frames) < 4 * STRIP_MOST:
            small = frame.reformat(self._width, STRIP_HEIGHT, "rgb24")
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
