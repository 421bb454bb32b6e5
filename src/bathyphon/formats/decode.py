"""Whatever the decoder reads, as float32 blocks."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
from numpy.typing import NDArray

from bathyphon.core.errors import Refused

HIGHEST_RATE = 768_000
MOST_CHANNELS = 64


@dataclass(frozen=True)
class SoundStream:
    """One sound stream of a file.

    Parameters
    ----------
    rate : int
        Samples a second.
    channels : tuple of str
        Names such as ``FL``, in order.
    starts : Fraction
        Seconds from the file's beginning to the stream's first sample.
    codec : str
    """

    rate: int
    channels: tuple[str, ...]
    starts: Fraction
    codec: str


@dataclass(frozen=True)
class PictureStream:
    """The picture stream of a file: size, exact frame rate, frames and start in seconds."""

    width: int
    height: int
    rate: Fraction
    frames: int
    starts: Fraction
    codec: str


@dataclass(frozen=True)
class Contents:
    """What a file holds."""

    sound: SoundStream | None
    picture: PictureStream | None
    seconds: float


@contextmanager
def opened(path: Path) -> Iterator[av.container.InputContainer]:
    """Open a media file, turning every failure of the decoder into one sentence."""
    try:
        if path.stat().st_size == 0:
            raise Refused(f"“{path.name}” is empty")
        with av.open(str(path), mode="r", metadata_errors="ignore") as container:
            yield container
    except FileNotFoundError:
        raise Refused(f"there is no file “{path}”") from None
    except IsADirectoryError:
        raise Refused(f"“{path}” is a folder, not a file") from None
    except (av.error.FFmpegError, PermissionError) as error:
        raise Refused(
            f"“{path.name}” cannot be read as sound or picture ({_reason(error)})"
        ) from None


def probe(path: Path) -> Contents:
    """Look into a file.

    Raises
    ------
    Refused
        If it holds neither sound nor picture.
    """
    with opened(path) as container:
        sound = _sound(container)
        picture = _picture(container)
        if sound is None and picture is None:
            raise Refused(f"“{path.name}” holds neither sound nor picture")
        seconds = float(container.duration or 0) / av.time_base
        return Contents(sound, picture, seconds)


def sound_blocks(path: Path) -> Iterator[NDArray[np.float32]]:
    """Yield the first sound stream in order, float32 of shape (channels, n), at its own rate.

    A damaged packet is left out; a file of which nothing can be decoded is refused.
    """
    with opened(path) as container:
        if not container.streams.audio:
            raise Refused(f"“{path.name}” holds no sound")
        stream = container.streams.audio[0]
        resampler: av.AudioResampler | None = None
        shape: tuple[int, str] | None = None
        for frame in decoded_frames(container, stream):
            if shape is None:
                shape = (frame.sample_rate, frame.layout.name)
                resampler = av.AudioResampler(
                    format="fltp", layout=frame.layout, rate=frame.sample_rate
                )
            if (frame.sample_rate, frame.layout.name) != shape or resampler is None:
                raise Refused(f"“{path.name}” changes its channels or rate on the way")
            frame.pts = None
            for part in resampler.resample(frame):
                yield part.to_ndarray().astype(np.float32, copy=False)
        if shape is None:
            raise Refused(f"“{path.name}” holds sound that cannot be decoded")


def coded_length(path: Path) -> int | None:
    """Samples of the first sound stream by its packets' times, exact where containers round.

    A container may state a length in milliseconds only; its packets still tell where the last
    one ends. None if they do not.
    """
    with opened(path) as container:
        stream = container.streams.audio[0]
        rate, base = stream.codec_context.sample_rate, stream.time_base
        end: int | None = None
        for packet in container.demux(stream):
            if packet.pts is not None and packet.duration:
                end = max(end or 0, packet.pts + packet.duration)
        if end is None or base is None or not rate:
            return None
        return max(0, round((end - max(0, stream.start_time or 0)) * base * rate))


def decoded_frames(
    container: av.container.InputContainer, stream: av.stream.Stream
) -> Iterator[Any]:
    """Frames of a stream in order; a packet that cannot be decoded is left out."""
    packets = container.demux(stream)
    while True:
        try:
            packet = next(packets)
        except (StopIteration, av.error.FFmpegError):
            return
        try:
            yield from packet.decode()
        except av.error.FFmpegError:
            continue


def _sound(container: av.container.InputContainer) -> SoundStream | None:
    if not container.streams.audio:
        return None
    stream = container.streams.audio[0]
    context = stream.codec_context
    rate = int(context.sample_rate or 0)
    names = tuple(c.name for c in context.layout.channels) if context.layout else ()
    if not 0 < rate <= HIGHEST_RATE or not 0 < len(names) <= MOST_CHANNELS:
        raise Refused(f"its sound has {len(names)} channels at {rate} Hz, which cannot be used")
    base = stream.time_base or Fraction(1, rate)
    return SoundStream(rate, names, _starts(container, stream, base), context.name)


def _picture(container: av.container.InputContainer) -> PictureStream | None:
    for stream in container.streams.video:
        rate = stream.average_rate or stream.guessed_rate
        # A cover picture in a sound file is a video stream of a single frame.
        if not rate or stream.disposition & av.stream.Disposition.attached_pic:
            continue
        base = stream.time_base or Fraction(1, 90000)
        seconds = (
            stream.duration * base
            if stream.duration
            else Fraction(container.duration or 0, av.time_base)
        )
        if seconds <= 0 or stream.width <= 0 or stream.height <= 0:
            continue
        exact = exact_rate(Fraction(rate))
        return PictureStream(
            stream.width,
            stream.height,
            exact,
            stream.frames or round(seconds * exact),
            _starts(container, stream, base),
            stream.codec_context.name,
        )
    return None


def exact_rate(rate: Fraction) -> Fraction:
    """The standard rate that a measured one stands for, if it lies within 0.02 %."""
    standard = [Fraction(n * 1000, 1001) for n in (24, 30, 48, 60, 120)]
    standard += [Fraction(n) for n in (12, 15, 24, 25, 30, 48, 50, 60, 100, 120)]
    nearest = min(standard, key=lambda s: abs(s - rate))
    if abs(nearest - rate) / rate < Fraction(2, 10000):
        return nearest
    return rate.limit_denominator(1001)


def _starts(
    container: av.container.InputContainer, stream: av.stream.Stream, base: Fraction
) -> Fraction:
    start = Fraction(container.start_time or 0, av.time_base)
    return max(Fraction(0), (stream.start_time or 0) * base - start)


def _reason(error: BaseException) -> str:
    text = getattr(error, "strerror", None) or str(error)
    return str(text).strip().lower() or "unknown fault"
