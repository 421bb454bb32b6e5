"""What a stretcher knows of the sound that it stretches: attacks, and the bass by itself.

Everything is found on a grid that is fixed to the sound, and remembered for as long as it is near.
"""

from __future__ import annotations

import threading
from collections.abc import Callable, Hashable
from functools import cache
from typing import Any, TypeVar

import numpy as np
from cachetools import LRUCache, cached
from numpy.typing import NDArray
from scipy import fft

from bathyphon.core.arrays import Floats
from bathyphon.core.speed.attacks import HOP, Read, attacks_between, rising_bins
from bathyphon.core.speed.lowpass import lowpass, stepped
from bathyphon.core.speed.run import near
from bathyphon.core.speed.vocoder import Ints, window

BLOCK = 65536
"""Samples that are read and searched at once."""
SPLIT_HZ = 500.0
LOWEST_RATE = 1300.0
"""Samples a second that the bass keeps, at least."""
TAPS = 32
"""Half of the taps of the filter that parts the bass, in samples of the bass."""
FINE = 4
"""Of the samples that are left after the first of two steps, one in so many is kept."""
ROUGH_TAPS = 4
"""Half of the taps of that step, in samples that it leaves."""
BASS_FRAME = 512
"""Samples of the bass in a frame that tells partials 15 Hz apart from one another."""
STEP = 128
"""Samples of the bass from one look at it to the next."""
BASS_BINS = 192
ALIKE = 0.96
"""Likeness of two spectra half a frame apart from which on the bass stands still."""
WHILE = 4
"""Steps for which it must: only then is another kind of frame worth the change."""
NEAR, NEAR_SOUNDS = 64, 8
"""Results of each kind that are remembered; blocks of the sound itself."""
MOST_SEARCHED = 4096
"""Blocks of which it is known where their attacks are, of all sounds that have a name."""

T = TypeVar("T")


def bass_step(sample_rate: int) -> int:
    """Samples of a sound for each one that its bass keeps: a power of two."""
    step = 1
    while sample_rate / (2 * step) >= LOWEST_RATE:
        step *= 2
    return step


@cache
def split_taps(sample_rate: int) -> Floats:
    """The filter that parts the bass from the rest, an odd number of taps."""
    half = TAPS * bass_step(sample_rate)
    return lowpass(2 * half + 1, SPLIT_HZ, sample_rate)


@cache
def rough_taps(sample_rate: int) -> Floats:
    """The filter before most samples are dropped: what would fold onto the bass is gone."""
    rough = bass_step(sample_rate) // FINE
    half = ROUGH_TAPS * rough
    if rough == 1:
        # At low rates none are dropped.
        return np.asarray(np.eye(1, 2 * half + 1, half)[0])
    cut = sample_rate / rough / 2
    return lowpass(2 * half + 1, cut, sample_rate)


@cache
def fine_taps(sample_rate: int) -> Floats:
    """The filter that parts the bass, after most samples have been dropped."""
    rough = bass_step(sample_rate) // FINE
    taps = 2 * TAPS * FINE + 1
    return lowpass(taps, SPLIT_HZ, sample_rate / rough)


def parted_bass(read: Read, start: int, stop: int, sample_rate: int) -> Floats:
    """Samples ``start … stop − 1`` of the bass of a sound, one for every ``bass_step``."""
    step = bass_step(sample_rate)
    # In two steps: most of the samples are dropped by a short filter.
    rough = step // FINE
    half = TAPS * FINE
    ends = (half + ROUGH_TAPS) * rough
    x = read(start * step - ends, (stop - 1) * step + ends + 1)
    if not x.any():
        return np.zeros((x.shape[0], stop - start))
    coarse = stepped(rough_taps(sample_rate), x, down=rough)
    coarse = coarse[:, 2 * ROUGH_TAPS :][:, : 2 * half + (stop - start - 1) * FINE + 1]
    found = stepped(fine_taps(sample_rate), coarse, down=FINE)
    return np.ascontiguousarray(found[:, 2 * TAPS :][:, : stop - start])


class Source:
    """A sound with what is known of it.

    Parameters
    ----------
    read : callable
        Samples from … to, shape (channels, n).
    sample_rate : int
    block : int
        Samples that are read and searched at once.
    name : hashable, optional
        Of the sound: what has the same one is the same sound, and its attacks are looked for once,
        however often its speed is changed.
    """

    def __init__(
        self, read: Read, sample_rate: int, block: int = BLOCK, name: Hashable = None
    ) -> None:
        self._read = read
        self._name = name
        self.block = self._size = block
        self.rate = sample_rate
        self.step = bass_step(sample_rate)
        self._near: dict[str, LRUCache[tuple[object, ...], Any]] = {}

    def read(self, start: int, stop: int) -> Floats:
        """Samples of the sound, shape (channels, stop − start)."""
        return _of_blocks(start, stop, self._size, self._block)

    def attacks(self, start: int, stop: int) -> Ints:
        """Samples in ``[start, stop)`` at which attacks begin."""
        blocks = range((start - 4 * HOP) // self._size, (stop + 4 * HOP) // self._size + 1)
        found = np.unique(np.concatenate([self._attacks(b) for b in blocks]))
        return found[(found >= start) & (found < stop)]

    def rising(self, place: int, frame: int) -> NDArray[np.bool_]:
        """Bins that belong to an attack."""
        return self._once(("rising", place, frame), lambda: rising_bins(self.read, place, frame))

    def bass(self, start: int, stop: int) -> Floats:
        """Samples of the bass, each of them for ``step`` samples of the sound."""
        return _of_blocks(start, stop, self._size // self.step, self._bass)

    def stillness(self, start: int, stop: int) -> Floats:
        """How far the bass stands still at looks ``start … stop − 1``, 0 to 1."""
        reach = WHILE - 1
        first = start - 1 - reach
        still = np.array([self._alike(m) > ALIKE for m in range(first, stop + 1 + reach)])
        runs = np.lib.stride_tricks.sliding_window_view(still, WHILE).all(axis=1)
        # Within any run of steps that all stand still.
        kept = np.lib.stride_tricks.sliding_window_view(runs, WHILE).any(axis=1).astype(float)
        return np.asarray((kept[:-2] + 2.0 * kept[1:-1] + kept[2:]) / 4.0)

    def _block(self, b: int) -> Floats:
        return self._once(("sound", b), lambda: self._read(b * self._size, (b + 1) * self._size))

    def _attacks(self, b: int) -> Ints:
        return self._once(("attacks", b), lambda: self._searched(b))

    def _searched(self, b: int) -> Ints:
        start = b * self._size

        def search() -> Ints:
            return attacks_between(self.read, start, start + self._size, self.rate)

        return (
            search() if self._name is None else _known(self._name, self.rate, self._size, b, search)
        )

    def _bass(self, b: int) -> Floats:
        n = self._size // self.step
        return self._once(
            ("bass", b), lambda: parted_bass(self.read, b * n, (b + 1) * n, self.rate)
        )

    def _spectrum(self, m: int) -> Floats:
        def made() -> Floats:
            at = m * STEP - BASS_FRAME // 2
            frame = self.bass(at, at + BASS_FRAME) * window(BASS_FRAME)
            power = (np.abs(fft.rfft(frame, axis=-1)[:, :BASS_BINS]) ** 2).sum(axis=0)
            return np.asarray(np.sqrt(power))

        return self._once(("spectrum", m), made)

    def _alike(self, m: int) -> float:
        """Likeness of the bass half a frame before and after a look at it."""

        def made() -> float:
            first, second = self._spectrum(m - 1), self._spectrum(m + 1)
            size = float(np.sqrt((first**2).sum() * (second**2).sum()))
            return float((first * second).sum()) / max(size, 1e-9)

        return self._once(("alike", m), made)

    def _once(self, key: tuple[object, ...], make: Callable[[], T]) -> T:
        shelf = self._near.get(str(key[0]))
        if shelf is None:
            # Sounds are large, the rest is small.
            shelf = LRUCache(NEAR_SOUNDS if key[0] == "sound" else NEAR)
            self._near[str(key[0])] = shelf
        found: T = near(shelf, key, make)
        return found


@cached(
    LRUCache(MOST_SEARCHED),
    key=lambda name, rate, size, b, search: (name, rate, size, b),
    lock=threading.Lock(),
)
def _known(name: Hashable, rate: int, size: int, b: int, search: Callable[[], Ints]) -> Ints:
    """Attacks in a block of a sound that has a name, searched for once in the whole process."""
    return search()


def _of_blocks(start: int, stop: int, size: int, block: Callable[[int], Floats]) -> Floats:
    first, last = start // size, -(-stop // size)
    parts = [
        block(b)[:, max(0, start - b * size) : min(size, stop - b * size)]
        for b in range(first, last)
    ]
    return parts[0] if len(parts) == 1 else np.concatenate(parts, axis=1)
