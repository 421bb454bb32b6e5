"""Media in their working form: stereo float32 at the reel's rate, memory-mapped."""

from __future__ import annotations

import hashlib
import os
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

import numpy as np
import soxr
from numpy.typing import NDArray

from bathyphon.core.errors import Refused
from bathyphon.formats.decode import SoundStream, coded_length, probe, sound_blocks
from bathyphon.formats.fold import fold
from bathyphon.formats.responses import LONGEST_SECONDS, PATHS, keep_paths, read_paths

Sound = NDArray[np.float32]
FRAME_BYTES = 8
GATHERED = 1 << 17
PADDED_CODECS = {"aac", "mp3", "mp3float", "ac3", "eac3", "wmav2", "wmapro"}


@dataclass(frozen=True)
class Conformed:
    """What became of a file: samples at the new rate, its own rate and channels, faults found."""

    samples: int
    source_rate: int
    channels: tuple[str, ...]
    not_finite: int


def stereo_blocks(path: Path, number: int = 0) -> Iterator[Sound]:
    """A file's sound folded to stereo, at its own rate, float32 of shape (2, n)."""
    stream = _stream(path, number)
    for block in _blocks(path, number, stream):
        yield fold(block, stream.channels)


def own_blocks(path: Path, number: int = 0) -> Iterator[Sound]:
    """A file's sound as it is, at its own rate, float32 of shape (channels, n).

    Coded formats that pad their end are cut to where their last packet ends.
    """
    yield from _blocks(path, number, _stream(path, number))


def _stream(path: Path, number: int) -> SoundStream:
    stream = probe(path, number).sound
    if stream is None:
        raise Refused(f"“{path.name}” holds no sound")
    return stream


def _blocks(path: Path, number: int, stream: SoundStream) -> Iterator[Sound]:
    left = coded_length(path, number) if stream.codec in PADDED_CODECS else None
    for sound in sound_blocks(path, number):
        if left is None:
            yield sound
            continue
        kept = sound[:, :left]
        left -= kept.shape[1]
        yield kept


def conform(
    path: Path,
    target: Path,
    rate: int,
    progress: Callable[[float], None] = lambda done: None,
    stream: int = 0,
) -> Conformed:
    """Decode, fold, resample (soxr, very high quality) and store a file's sound.

    Parameters
    ----------
    path : Path
        Any file that the decoder reads.
    target : Path
        Where the interleaved float32 samples go; it appears only when complete.
    rate : int
        Samples a second of the result; ``ceil(N · rate / source rate)`` samples.
    progress : callable
        Told the share that is done, 0 to 1.
    stream : int
        Which of the file's sounds.
    """
    contents = probe(path, stream)
    if contents.sound is None:
        raise Refused(f"“{path.name}” holds no sound")
    source_rate = contents.sound.rate
    expected = max(1.0, contents.seconds * source_rate)
    resampler = (
        None
        if source_rate == rate
        else soxr.ResampleStream(source_rate, rate, 2, dtype="float32", quality="VHQ")
    )
    target.parent.mkdir(parents=True, exist_ok=True)
    partial = target.with_name(f"{target.name}.{os.getpid()}.part")
    read = written = not_finite = 0
    try:
        with partial.open("wb") as file:

            def write(block: Sound) -> None:
                nonlocal written
                room = None if wanted is None else wanted - written
                block = block[:room]
                file.write(np.ascontiguousarray(block).tobytes())
                written += len(block)

            wanted: int | None = None
            for block in gathered(stereo_blocks(path, stream)):
                bad = ~np.isfinite(block)
                if bad.any():
                    not_finite += int(bad.sum())
                    block = np.where(bad, np.float32(0), block)
                read += block.shape[1]
                # Adding zero turns −0 into 0, so that untouched samples stay the same bits.
                frames = np.ascontiguousarray(block.T) + np.float32(0)
                write(resampler.resample_chunk(frames) if resampler else frames)
                progress(min(1.0, read / expected))
            wanted = -(-read * rate // source_rate)
            if resampler:
                write(resampler.resample_chunk(np.zeros((0, 2), np.float32), last=True))
            if written < wanted:
                write(np.zeros((wanted - written, 2), np.float32))
            file.truncate(wanted * FRAME_BYTES)
        if len(contents.sound.channels) == PATHS and 0 < wanted <= LONGEST_SECONDS * rate:
            keep_paths(path, target, rate, source_rate, stream)
        partial.replace(target)
    finally:
        partial.unlink(missing_ok=True)
    return Conformed(wanted, source_rate, contents.sound.channels, not_finite)


def gathered(blocks: Iterator[Sound], least: int = GATHERED) -> Iterator[Sound]:
    """Small blocks put together, since each costs as much as a large one to handle."""
    parts: list[Sound] = []
    held = 0
    for block in blocks:
        parts.append(block)
        held += block.shape[1]
        if held >= least:
            yield np.concatenate(parts, axis=1)
            parts, held = [], 0
    if parts:
        yield np.concatenate(parts, axis=1)


class ConformedFile:
    """Random access to a conformed file."""

    def __init__(self, path: Path) -> None:
        self._path = path
        size = path.stat().st_size
        self.samples = size // FRAME_BYTES
        self._frames: NDArray[np.float32] = (
            np.memmap(path, np.float32, "r", shape=(self.samples, 2))
            if size
            else np.zeros((0, 2), np.float32)
        )

    def read(self, start: int, stop: int) -> Sound:
        """Samples ``[start, stop)``, shape (2, stop − start), zeros outside the file."""
        a, b = max(0, min(start, self.samples)), max(0, min(stop, self.samples))
        if a == start and b == stop:
            return np.ascontiguousarray(self._frames[a:b].T)
        out = np.zeros((2, stop - start), np.float32)
        if a < b:
            out[:, a - start : b - start] = self._frames[a:b].T
        return out

    def response(self, most: int) -> Sound:
        """Up to ``most`` samples as an impulse response: of two paths, or of four if it has them.

        Returns
        -------
        ndarray of float32, shape (2, n) or (4, n)
        """
        paths = read_paths(self._path)
        if paths is not None:
            return paths[:, :most]
        return self.read(0, min(self.samples, most))


def digest_of_file(path: Path) -> str:
    """SHA-256 of a file's content, in hexadecimal."""
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()
