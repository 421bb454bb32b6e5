"""Stretching: pitch, attacks, level of noise and stereo image stay, whatever the pace.

The sound is computed in chunks on a grid fixed to its beginning, one after the other; what a chunk
needs of the one before is kept every ten seconds, so that any place can be reached from there.

Where the bass stands still it is stretched in longer frames than the rest, which tell partials a
few Hz apart from one another; elsewhere short ones follow it better.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cache, partial

import numpy as np
from cachetools import LRUCache
from numpy.typing import NDArray
from scipy import fft

from bathyphon.core.arrays import Floats
from bathyphon.core.speed.formants import moved_formants
from bathyphon.core.speed.latency import BLOCK, chunk_size, farthest, frame_size
from bathyphon.core.speed.levels import frames_around, levelled
from bathyphon.core.speed.lowpass import lowpass, stepped
from bathyphon.core.speed.run import NEAR, Run, near
from bathyphon.core.speed.source import BASS_FRAME, STEP, Source, parted_bass, split_taps
from bathyphon.core.speed.timemap import attacks_on, fresh_frames, mapped
from bathyphon.core.speed.vocoder import OVERLAP, Band, Ints, State, window
from bathyphon.core.speed.voice import Moves, margin, moves
from bathyphon.core.timing.pace import Pace

FIRST, FIRST_LONG = -4, -2
"""Chunks at which short and long frames begin: by chunk 0 it is as if they always had.

Long ones begin later, since they go on from what short ones have made.
"""
SMOOTHING = 8
"""Half of the taps of the filter that brings the bass back to its rate, in samples of the bass."""


@cache
def _smoothing_taps(sample_rate: int, step: int) -> Floats:
    taps = 2 * SMOOTHING * step + 1
    cut = sample_rate / step / 2
    return step * lowpass(taps, cut, sample_rate)


@dataclass(frozen=True)
class Grid:
    """How much is computed at once.

    Parameters
    ----------
    chunk : int
        Samples; a whole number of frames of every kind must fit.
    bass : bool
        Whether long frames are used where the bass stands still; they look far ahead.
    block : int
        Samples of the source that are read and searched.
    checkpoint_s : float
        Seconds from one checkpoint to the next.
    """

    chunk: int = 16384
    bass: bool = True
    block: int = 65536
    checkpoint_s: float = 10.0


WHOLE = Grid()


def soon(sample_rate: int) -> Grid:
    """Little at once: what is answered soon cannot wait for much.

    Yet a whole frame: the level of a chunk is decided by frames of those beside it.
    """
    return Grid(chunk_size(sample_rate), bass=False, block=BLOCK, checkpoint_s=0.5)


class Stretch:
    """A sound at another pace and its own pitch.

    Parameters
    ----------
    source : Source
    pace : Pace
        Places of the source for samples of the output.
    voice : bool
        Whether it is a single voice, whose pulses keep their shape.
    formants : callable, optional
        For samples of the output: by how much frequencies are multiplied to find the envelope that
        they shall have.
    grid : Grid
    """

    def __init__(
        self,
        source: Source,
        pace: Pace,
        voice: bool = False,
        formants: Callable[[Floats], Floats] | None = None,
        grid: Grid = WHOLE,
    ) -> None:
        self._source = source
        self._size = grid.chunk
        self._long = grid.bass and formants is None
        self._formants = formants
        self._voice = voice
        self._pace = pace
        rate = source.rate
        self._frame = frame_size(rate)
        self._hop = self._frame // OVERLAP
        self._shape = window(self._frame)
        every = max(1, round(grid.checkpoint_s * rate / self._size))
        self._whole = Run(
            Band(self._frame), self._size // self._hop, every, self._whole_frames, FIRST
        )
        long = self._size // source.step // (BASS_FRAME // OVERLAP)
        self._bass = Run(
            Band(BASS_FRAME), long, every, self._bass_frames, FIRST_LONG, self._bass_needed
        )
        self._levelled: LRUCache[int, Floats] = LRUCache(NEAR)
        self._out: LRUCache[int, Floats] = LRUCache(NEAR)

    def read(self, start: int, stop: int) -> Floats:
        """Samples ``start … stop − 1``, shape (channels, stop − start); silence before 0."""
        parts = []
        for c in range(start // self._size, -(-stop // self._size)):
            out = near(self._out, c, partial(self._chunk, c))
            parts.append(
                out[:, max(0, start - c * self._size) : min(self._size, stop - c * self._size)]
            )
        return _joined(parts)

    def _chunk(self, c: int) -> Floats:
        whole = self._level(c)
        share = self._share(c)
        if share.max() == 0.0:
            return whole
        taps = split_taps(self._source.rate)
        half = taps.size // 2
        around = _joined([self._level(i) for i in (c - 1, c, c + 1)])
        around = around[:, self._size - half : 2 * self._size + half]
        size = fft.next_fast_len(around.shape[1] + taps.size)
        spectrum = fft.rfft(around, size, axis=1) * fft.rfft(taps, size)
        bass = fft.irfft(spectrum, size, axis=1)[:, 2 * half : 2 * half + self._size]
        return np.asarray(whole + share * (self._steady_bass(c) - bass))

    def _bass_needed(self, c: int) -> bool:
        return bool(self._share(c).max() > 0.0)

    def _share(self, c: int) -> Floats:
        """How much of the bass is taken from long frames, at each sample of a chunk."""
        if not self._long:
            return np.zeros(1)
        t = np.arange(c * self._size, (c + 1) * self._size + self._hop, self._hop)
        looks = self._pace.at(t.astype(float)) / (STEP * self._source.step)
        low, high = int(np.floor(looks[0])), int(np.floor(looks[-1])) + 2
        still = self._source.stillness(low, high)
        if not still.any():
            return np.zeros(1)
        at = np.interp(looks, np.arange(low, high), still)
        part = np.arange(self._hop) / self._hop
        return np.asarray((at[:-1, None] + part * np.diff(at)[:, None]).reshape(-1))

    def checkpoint(self, at: int) -> tuple[int, State]:
        """A chunk and a state of the short frames from which sample ``at`` on can be made."""
        return self._whole.checkpoint(at // self._size - 2)

    def reaches(self, low: float, high: float) -> tuple[int, int]:
        """Samples of the source that chunks may ask for which hold samples low … high."""
        size, around = self._size, 3 * farthest(self._frame)
        first = (low // size - 3) * size - around
        last = (high // size + 3) * size + around
        begins, ends = self._pace.at(np.array([first, last], float))
        block = self._source.block
        more = 2 * self._frame + 3 * block
        return int(begins) - more, int(ends) + more

    def forget_before(self, chunk: int) -> None:
        """Drop checkpoints before the last one at or before a chunk."""
        self._whole.forget_before(chunk)

    def start_at(self, chunk: int, state: State) -> None:
        """Go on from a checkpoint; what lies before is not asked for."""
        self._whole.start_at(chunk, state)

    def begin_at(self, at: int) -> None:
        """Begin so that sample ``at`` is made as if it always had; nothing before is asked for.

        Only with short frames, which do not go on from what was there long ago.
        """
        chunk = at // self._size + FIRST
        if chunk > FIRST:
            self._whole.start_at(chunk, ())

    def _steady_bass(self, c: int) -> Floats:
        step = self._source.step
        near = _joined([self._bass.chunk(i)[0] for i in (c - 1, c, c + 1)])
        each = self._size // step
        x = near[:, each - SMOOTHING : 2 * each + SMOOTHING]
        y = stepped(_smoothing_taps(self._source.rate, step), x, up=step)
        return np.asarray(y[:, 2 * SMOOTHING * step :][:, : self._size])

    def _levels(self, start: int, stop: int) -> Floats:
        first = start // self._size
        near = _joined([self._level(c) for c in range(first, -(-stop // self._size))])
        return near[:, start - first * self._size : stop - first * self._size]

    def _level(self, c: int) -> Floats:
        return near(self._levelled, c, partial(self._new_level, c))

    def _new_level(self, c: int) -> Floats:
        chunks = [self._whole.chunk(i) for i in (c - 1, c, c + 1)]
        x = _joined([sound for sound, _ in chunks])
        # The first frame of a chunk begins with it; its middle lies half a frame later.
        low, high = (
            n + self._size // self._hop - OVERLAP // 2 for n in frames_around(self._size, self._hop)
        )
        channels = [sound.shape[0] for sound, _ in chunks]
        wanted = np.concatenate(
            [w * (x.shape[0] / n) for (_, w), n in zip(chunks, channels, strict=True)]
        )
        return levelled(x, self._size, self._size, wanted[low:high], self._shape, self._hop)

    def _whole_frames(self, band: Band, first: int, count: int) -> tuple[Floats, Floats]:
        middles = (first + np.arange(count)) * self._hop
        around = 3 * farthest(self._frame)
        low, high = float(middles[0] - around), float(middles[-1] + around)
        begins, ends = self._pace.at(np.array([low, high]))
        found = self._source.attacks(int(np.floor(begins)), int(np.ceil(ends)) + 1)
        attacks = attacks_on(self._pace, found, low, high)
        places = mapped(self._pace, attacks, self._frame, middles.astype(float))
        fresh = fresh_frames(attacks.targets, middles, self._frame)
        rising = [None if k < 0 else self._source.rising(int(found[k]), self._frame) for k in fresh]
        whole = _rounded(places)
        moved = self._moves(whole, band, first) if self._voice and not band.empty else None
        shape = None
        if self._formants is not None:
            by = self._formants(middles.astype(float))

            def shape(spectra: NDArray[np.complex128]) -> NDArray[np.complex128]:
                return moved_formants(spectra, by, self._source.rate)

        return _advanced(band, self._source.read, whole, rising, moved, shape)

    def _moves(self, places: Ints, band: Band, first: int) -> Moves:
        around = margin(self._source.rate)
        begins = min(int(places.min()), band.place) - around
        ends = max(int(places.max()), band.place + band.hop) + around
        x = self._source.read(begins, ends).sum(axis=0)
        return moves(x, begins, places, band.place, band.hop, self._source.rate, first)

    def _bass_frames(self, band: Band, first: int, count: int) -> tuple[Floats, Floats]:
        step = self._source.step
        middles = (first + np.arange(count)) * band.hop
        same = 0
        parts: list[Floats] = []
        if band.empty:
            # Long frames go on from what short ones have made: where both are heard, what lies at
            # the edge between them would else cancel.
            chunk = (first + OVERLAP - 1) * band.hop * step // self._size
            begins = chunk * self._size // step + int(np.argmax(self._share(chunk) > 0.0)) // step
            same = int((middles <= begins + band.hop).sum())
            parts.append(band.lay(self._made_bass(band.frame, middles[:same])))
        if same < count:
            places = self._pace.at((middles[same:] * step).astype(float)) / step
            parts.append(
                _advanced(band, self._source.bass, _rounded(places), [None] * places.size)[0]
            )
        return _joined(parts), np.zeros(count)

    def _made_bass(self, frame: int, middles: Ints) -> NDArray[np.complex128]:
        """Spectra of long frames of what short ones have made, shape (m, channels, bins)."""
        begins = int(middles[0]) - frame // 2
        ends = int(middles[-1]) + frame // 2
        made = parted_bass(self._levels, begins, ends, self._source.rate)
        frames = np.lib.stride_tricks.sliding_window_view(made, frame, axis=1)
        cut = frames[:, middles - middles[0]].swapaxes(0, 1) * window(frame)
        return np.asarray(fft.rfft(cut, axis=-1))


def _advanced(
    band: Band,
    read: Callable[[int, int], Floats],
    places: Ints,
    rising: list[NDArray[np.bool_] | None],
    moved: Moves | None = None,
    shape: Callable[[NDArray[np.complex128]], NDArray[np.complex128]] | None = None,
) -> tuple[Floats, Floats]:
    half = band.frame // 2
    begins = int(places.min()) - half - band.hop
    x = read(begins, int(places.max()) + half)
    # What is the same on both sides is computed once.
    if x.shape[0] == 2 and band.channels < 2 and np.array_equal(x[0], x[1]):
        x = x[:1]
    return band.advance(x, begins, places, rising, moved, shape)


def _rounded(places: Floats) -> Ints:
    return np.floor(places + 0.5).astype(np.int64)


def _joined(parts: list[Floats]) -> Floats:
    """Stretches of sound one after another; what is the same on both sides is one channel."""
    channels = max(part.shape[0] for part in parts)
    return np.concatenate(
        [np.broadcast_to(part, (channels, part.shape[1])) for part in parts], axis=1
    )
