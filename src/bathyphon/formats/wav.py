"""Sound files out: container by ending, bit depth by choice, dither at 16 bit only."""

from __future__ import annotations

from collections.abc import Iterable
from pathlib import Path
from types import TracebackType
from typing import Literal

import numpy as np
import soundfile
from numpy.typing import NDArray

from bathyphon.core.compiled import njit
from bathyphon.core.errors import Refused

Bits = Literal["16", "24", "32f"]
_CONTAINERS = {".wav": "WAV", ".rf64": "RF64", ".w64": "W64", ".flac": "FLAC", ".aiff": "AIFF"}
_SUBTYPES = {"16": "PCM_16", "24": "PCM_24", "32f": "FLOAT"}
_LARGEST_WAV = 4_200_000_000


@njit(cache=True, nogil=True)
def _hash(index: np.uint64) -> np.uint64:  # pragma: no cover - compiled
    """SplitMix64 (Steele, Lea & Flood 2014): a random number that depends on its index alone."""
    z = index * np.uint64(0x9E3779B97F4A7C15) + np.uint64(0x9E3779B97F4A7C15)
    z = (z ^ (z >> np.uint64(30))) * np.uint64(0xBF58476D1CE4E5B9)
    z = (z ^ (z >> np.uint64(27))) * np.uint64(0x94D049BB133111EB)
    return z ^ (z >> np.uint64(31))


@njit(cache=True, nogil=True)
def _triangular(first: int, out: NDArray[np.float64]) -> None:  # pragma: no cover - compiled
    for side in range(out.shape[0]):
        for k in range(out.shape[1]):
            index = np.uint64(first + k) * np.uint64(2 * out.shape[0]) + np.uint64(2 * side)
            a = float(_hash(index) >> np.uint64(11)) / 9007199254740992.0
            b = float(_hash(index + np.uint64(1)) >> np.uint64(11)) / 9007199254740992.0
            out[side, k] = a - b


def dither(start: int, count: int, channels: int = 2) -> NDArray[np.float64]:
    """Triangular dither of ±1 step (2 LSB peak to peak) by sample number, (channels, count)."""
    out = np.empty((channels, count))
    _triangular(start, out)
    return out


def quantise(sound: NDArray[np.float32], bits: Bits, start: int) -> NDArray[np.generic]:
    """Samples as they go into the file, shape (n, channels): int16, int32 (24 bit, left-aligned) or
    float32. ``start`` is the first sample's number, on which the dither depends.
    """
    if bits == "32f":
        return np.ascontiguousarray(sound.T)
    x = sound.astype(np.float64)
    if bits == "16":
        x = np.rint(x * 32768.0 + dither(start, x.shape[1], x.shape[0]))
        return np.ascontiguousarray(np.clip(x, -32768, 32767).T.astype(np.int16))
    x = np.clip(np.rint(x * 8388608.0), -8388608, 8388607)
    return np.ascontiguousarray((x.astype(np.int32) << 8).T)


class SoundWriter:
    """Writes blocks of sound to a file; the file appears only when it is complete.

    Parameters
    ----------
    path : Path
        Its ending chooses the container: .wav, .rf64, .w64, .flac, .aiff.
    rate : int
    bits : {"16", "24", "32f"}
    samples : int
        Expected length; a WAV that would pass 4 GB is written as RF64.
    start : int
        Number of the first sample, for the dither.
    channels : int
    """

    def __init__(
        self,
        path: Path,
        rate: int,
        bits: Bits,
        samples: int = 0,
        start: int = 0,
        channels: int = 2,
    ) -> None:
        container = container_of(path)
        if container == "FLAC" and bits == "32f":
            raise Refused("FLAC cannot hold 32-bit float; choose 24 bit or a .wav file")
        width = channels * {"16": 2, "24": 3, "32f": 4}[bits]
        if container == "WAV" and samples * width > _LARGEST_WAV:
            container = "RF64"
        self._path = path
        self._partial = path.with_name(f".{path.name}.part")
        self._bits = bits
        self._at = start
        try:
            self._file = soundfile.SoundFile(
                self._partial, "w", rate, channels, _SUBTYPES[bits], format=container
            )
        except (soundfile.LibsndfileError, OSError):
            raise Refused(f"“{path}” cannot be written; is its folder there?") from None

    def write(self, sound: NDArray[np.float32]) -> None:
        """Append a block of shape (channels, n)."""
        self._file.write(quantise(sound, self._bits, self._at))
        self._at += sound.shape[1]

    def __enter__(self) -> SoundWriter:
        return self

    def __exit__(
        self,
        kind: type[BaseException] | None,
        error: BaseException | None,
        trace: TracebackType | None,
    ) -> None:
        self._file.close()
        if kind is None:
            if self._bits == "32f":
                _forget_the_time(self._partial)
            self._partial.replace(self._path)
        else:
            self._partial.unlink(missing_ok=True)


def _forget_the_time(path: Path) -> None:
    """Empty the time of day in the PEAK chunk that floating-point WAV, RF64 and AIFF files get.

    The same sound is then the same file. The chunk begins: name, length, version, time, each of
    four bytes; it stands in front of the samples.
    """
    with path.open("r+b") as file:
        head = file.read(512)
        at = head.find(b"PEAK")
        if at >= 0 and not any(0 <= head.find(samples) < at for samples in (b"data", b"SSND")):
            file.seek(at + 12)
            file.write(bytes(4))


def container_of(path: Path) -> str:
    """The container that a file's ending stands for."""
    container = _CONTAINERS.get(path.suffix.lower())
    if container is None:
        raise Refused(f"“{path.name}” must end in {', '.join(_CONTAINERS)}")
    return container


def write_sound(
    path: Path, blocks: Iterable[NDArray[np.float32]], rate: int, bits: Bits = "24"
) -> None:
    """Write blocks of shape (2, n) to a file."""
    with SoundWriter(path, rate, bits) as writer:
        for block in blocks:
            writer.write(block)
