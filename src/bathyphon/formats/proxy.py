"""The proxy: a copy of a picture that a browser seeks by frame."""

from __future__ import annotations

from pathlib import Path
from types import TracebackType

import av
from av.video.reformatter import VideoReformatter

from bathyphon.formats.decode import PictureStream

TALLEST = 720
GROUP = 12
# It is looked at in a panel and thrown away with its medium: speed matters more than its size.
PRESET = "ultrafast"


class ProxyWriter:
    """Writes the proxy frame by frame, encoded anew: nobody is sent what others have made."""

    def __init__(self, target: Path, stream: PictureStream) -> None:
        self._target = target
        self._rate = stream.rate
        self._width, self._aspect = stream.width, stream.aspect
        self._out: av.container.OutputContainer | None = None
        self._size = (0, 0)
        self._scale = VideoReformatter()

    def see(self, index: int, frame: av.VideoFrame) -> None:
        """Append a frame."""
        if self._out is None:
            self._open(self._target, frame)
        assert self._out is not None
        small = self._scale.reformat(frame, *self._size, "yuv420p")
        small.pts = index
        small.time_base = 1 / self._rate
        small.pict_type = av.video.frame.PictureType.NONE
        self._out.mux(self._video.encode(small))

    def _open(self, target: Path, frame: av.VideoFrame) -> None:
        wide, high = frame.width, frame.height
        # A pixel that is not square, in a picture that lies on its side, is high, not wide.
        if frame.width == self._width:
            wide = round(wide * self._aspect)
        else:
            high = round(high * self._aspect)
        self._size = _fitted(wide, high)
        partial = str(target.with_suffix(".part.mp4"))
        self._out = av.open(partial, "w", options={"movflags": "faststart"})
        video = self._out.add_stream("libx264", rate=self._rate)
        video.width, video.height = self._size
        video.pix_fmt = "yuv420p"
        video.options = {"preset": PRESET, "crf": "23", "bf": "0", "tune": "fastdecode"}
        # Slices of one frame would keep fewer cores busy than frames side by side.
        video.thread_type = "FRAME"
        video.gop_size = GROUP
        video.time_base = 1 / self._rate
        self._video = video

    def __enter__(self) -> ProxyWriter:
        return self

    def __exit__(
        self,
        kind: type[BaseException] | None,
        error: BaseException | None,
        trace: TracebackType | None,
    ) -> None:
        if self._out is None:
            return
        if kind is None:
            self._out.mux(self._video.encode())
        self._out.close()
        if kind is None:
            self._target.with_suffix(".part.mp4").replace(self._target)


def _fitted(width: int, height: int) -> tuple[int, int]:
    scale = min(1.0, TALLEST / height)
    return max(2, round(width * scale / 2) * 2), max(2, round(height * scale / 2) * 2)
