"""Whatever the decoder reads, as float32 blocks."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
from numpy.typing import NDArray

from bathyphon.core.errors import Refused
from bathyphon.formats.computed import computed

HIGHEST_RATE = 768_000
MOST_CHANNELS = 64
LARGEST_SIDE = 16_384
LONGEST_SECONDS = 8 * 3600
GAP_SECONDS = 0.04
ZEROS = 65_536
# Frames are small; so many are converted at once.
HELD_FRAMES = 64
FULL_SCALE = {"s16": 2.0**15, "s32": 2.0**31, "s64": 2.0**63}
# Formats that hold media themselves. Lists that lead to other files or addresses are not among
# them, nor is anything but a file ever opened.
FORMATS = (
    "mov,mp4,m4a,3gp,3g2,mj2,matroska,webm,wav,w64,aiff,flac,mp3,ogg,aac,caf,au,avi,mpegts,mpeg,"
    "mxf,asf,ac3,eac3,amr,amrnb,amrwb,flv,dv,wv,tta,voc,h264,hevc,m4v,mpegvideo,ivf"
)
_OPTIONS = {"protocol_whitelist": "file", "format_whitelist": FORMATS}


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
    aspect: Fraction = Fraction(1)


@dataclass(frozen=True)
class Contents:
    """What a file holds.

    Parameters
    ----------
    sound : SoundStream or None
        The chosen sound.
    picture : PictureStream or None
    seconds : float
    sounds : int
        How many sounds the file has.
    timecode : str
        Of its first frame, as the file states it, or empty.
    time_reference : int
        Samples since midnight that a broadcast wave states, at its own rate.
    """

    sound: SoundStream | None
    picture: PictureStream | None
    seconds: float
    sounds: int = 0
    timecode: str = ""
    time_reference: int = 0


@contextmanager
def opened(path: Path) -> Iterator[av.container.InputContainer]:
    """Open a media file, turning every failure of the decoder into one sentence."""
    try:
        if path.stat().st_size == 0:
            raise Refused(f"“{path.name}” is empty")
        with av.open(
            str(path.absolute()), mode="r", metadata_errors="ignore", container_options=_OPTIONS
        ) as container:
            yield container
    except FileNotFoundError:
        raise Refused(f"there is no file “{path}”") from None
    except IsADirectoryError:
        raise Refused(f"“{path}” is a folder, not a file") from None
    except (av.error.FFmpegError, PermissionError) as error:
        raise Refused(
            f"“{path.name}” cannot be read as sound or picture ({_reason(error)})"
        ) from None


def probe(path: Path, stream: int = 0) -> Contents:
    """Look into a file; ``stream`` chooses one of its sounds.

    Raises
    ------
    Refused
        If it holds neither sound nor picture.
    """
    made = computed(path)
    if made is not None:
        sound = None
        if stream == 0:
            sound = SoundStream(made.rate, ("FL", "FR"), Fraction(0), "computed")
        return Contents(sound, None, made.samples / made.rate, 1)
    with opened(path) as container:
        sound = _sound(container, stream)
        picture = _picture(container)
        if sound is None and picture is None:
            raise Refused(f"“{path.name}” holds neither sound nor picture")
        seconds = float(container.duration or 0) / av.time_base
        if seconds > LONGEST_SECONDS:
            raise Refused(f"“{path.name}” is longer than {LONGEST_SECONDS // 3600} hours")
        said = {k.lower(): v for s in container.streams for k, v in s.metadata.items()}
        said |= {k.lower(): v for k, v in container.metadata.items()}
        reference = said.get("time_reference", "0")
        return Contents(
            sound,
            picture,
            seconds,
            len(container.streams.audio),
            said.get("timecode", "")[:16],
            int(reference) if reference.isdigit() else 0,
        )


def first_time(path: Path, kind: str, stream: int = 0) -> Fraction | None:
    """Time in seconds of the first frame that comes out of the decoder, in the file's own time.

    Parameters
    ----------
    path : Path
    kind : {"audio", "video"}
    stream : int
        Which of the streams of that kind.
    """
    if computed(path) is not None:
        return Fraction(0) if kind == "audio" and stream == 0 else None
    with opened(path) as container:
        streams = container.streams.audio if kind == "audio" else container.streams.video
        if len(streams) <= stream:
            return None
        for frame in decoded_frames(container, streams[stream]):
            if frame.pts is not None and frame.time_base:
                return Fraction(frame.pts * frame.time_base)
    return None


class Empty(Refused):
    """A sound of no length."""


def holds_packets(path: Path, stream: int) -> bool:
    """Whether there is anything in a sound stream, decodable or not."""
    with opened(path) as container, suppress(av.error.FFmpegError):
        return any(packet.size for packet in container.demux(container.streams.audio[stream]))
    return False


def sound_blocks(path: Path, stream: int = 0) -> Iterator[NDArray[np.float32]]:
    """Yield a sound stream in order, float32 of shape (channels, n), at its own rate.

    A damaged packet is left out, and where packets are missing there is silence, so that what
    follows stays in time. A file of which nothing can be decoded is refused.
    """
    made = computed(path)
    if made is not None:
        if stream:
            raise Refused(f"“{path.name}” holds no sound")
        from bathyphon.core.sounds.made import sound_of

        yield from sound_of(made)
        return
    with opened(path) as container:
        if len(container.streams.audio) <= stream:
            raise Refused(f"“{path.name}” holds no sound")
        source = container.streams.audio[stream]
        source.codec_context.thread_type = "AUTO"
        shape: tuple[int, str, str] | None = None
        first: int | None = None
        produced = 0
        held: list[NDArray[Any]] = []
        for frame in decoded_frames(container, source):
            of_frame = (frame.sample_rate, frame.layout.name, frame.format.name)
            if shape is None:
                shape = of_frame
            if of_frame != shape:
                raise Refused(f"“{path.name}” changes its channels or rate on the way")
            channels, rate = frame.layout.nb_channels, frame.sample_rate
            late = 0
            if frame.pts is not None and frame.time_base:
                first = frame.pts if first is None else first
                base = frame.time_base
                passed = (frame.pts - first) * base.numerator * rate
                late = round(passed / base.denominator) - produced
            if late > GAP_SECONDS * rate:
                if late > LONGEST_SECONDS * rate:
                    raise Refused(f"“{path.name}” has a hole of hours in its sound")
                yield from _as_floats(held, shape[2], channels)
                held = []
                for at in range(0, late, ZEROS):
                    silence = np.zeros((channels, min(ZEROS, late - at)), np.float32)
                    yield silence
                produced += late
            held.append(frame.to_ndarray())
            produced += frame.samples
            if len(held) >= HELD_FRAMES:
                yield from _as_floats(held, shape[2], channels)
                held = []
            if produced > LONGEST_SECONDS * rate:
                raise Refused(f"“{path.name}” is longer than {LONGEST_SECONDS // 3600} hours")
        if shape is None:
            if not holds_packets(path, stream):
                raise Empty(f"“{path.name}” is empty: it holds not one sample of sound")
            raise Refused(f"“{path.name}” holds sound that cannot be decoded")
        yield from _as_floats(held, shape[2], channels)


def _as_floats(held: list[NDArray[Any]], kind: str, channels: int) -> Iterator[NDArray[np.float32]]:
    """Decoded frames put together, float32 of shape (channels, n), full scale 1."""
    if not held:
        return
    whole = np.concatenate(held, axis=1)
    if not kind.endswith("p"):
        whole = whole.reshape(-1, channels).T
    sample = kind.removesuffix("p")
    if sample == "u8":
        yield (whole.astype(np.float32) - np.float32(128)) * np.float32(1 / 128)
    elif sample in FULL_SCALE:
        yield whole.astype(np.float32) * np.float32(1 / FULL_SCALE[sample])
    else:
        yield whole.astype(np.float32)


def coded_length(path: Path, number: int = 0) -> int | None:
    """Samples of a sound stream by its packets' times, exact where containers round.

    A container may state a length in milliseconds only; its packets still tell where the last
    one ends. None if they do not.
    """
    with opened(path) as container:
        stream = container.streams.audio[number]
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


def _sound(container: av.container.InputContainer, number: int) -> SoundStream | None:
    if len(container.streams.audio) <= number:
        return None
    stream = container.streams.audio[number]
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
        if max(stream.width, stream.height) > LARGEST_SIDE:
            raise Refused(f"its picture of {stream.width} × {stream.height} is too large")
        exact = exact_rate(Fraction(rate))
        return PictureStream(
            stream.width,
            stream.height,
            exact,
            stream.frames or round(seconds * exact),
            _starts(container, stream, base),
            stream.codec_context.name,
            Fraction(stream.sample_aspect_ratio or 1),
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
