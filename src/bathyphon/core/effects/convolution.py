"""Convolution with long responses, block by block, on a grid that is fixed to the owner.

Partitioned overlap-save (W. G. Gardner, "Efficient convolution without input-output delay",
J. Audio Eng. Soc. 43, 1995), here in two sizes: short partitions for the beginning of the
response, and longer ones, whose work is much less, for what can wait that long. It answers one
short partition late.
"""

from __future__ import annotations

import numpy as np
from numba import njit
from numpy.fft import irfft, rfft
from numpy.typing import NDArray

from bathyphon.core.curves import Floats

Spectra = NDArray[np.complex128]

SHORT = 1024
LONG = 8192


@njit(cache=True, nogil=True)
def _gather(
    heard: Spectra, response: Spectra, newest: int, out: Spectra
) -> None:  # pragma: no cover - compiled
    """Sum of products of the last inputs' spectra and the partitions', in a fixed order.

    ``heard`` is (2, count, bins), a ring; ``response`` (2, 2, count, bins); ``out`` (2, bins).
    """
    count = heard.shape[1]
    out[:] = 0.0
    for k in range(count):
        place = newest - k
        if place < 0:
            place += count
        for a in range(2):
            for b in range(2):
                x, h, y = heard[a, place], response[a, b, k], out[b]
                for i in range(y.size):
                    y[i] += x[i] * h[i]


class Stage:
    """Partitions of one size.

    Parameters
    ----------
    response : ndarray, shape (2, 2, n)
        This stage's part of the response, its beginning on this stage's time.
    size : int
        Samples of a partition.
    """

    def __init__(self, response: Floats, size: int) -> None:
        count = max(1, -(-response.shape[2] // size))
        padded = np.zeros((2, 2, count * size))
        padded[:, :, : response.shape[2]] = response
        self.size = size
        self.response: Spectra = rfft(padded.reshape(2, 2, count, size), 2 * size, axis=-1)
        self.heard: Spectra = np.zeros((2, count, size + 1), np.complex128)
        self.before = np.zeros((2, size))
        self.newest = 0

    def advance(self, x: Floats) -> Floats:
        """Take a partition of input, shape (2, size), and give that of output."""
        self.newest = (self.newest + 1) % self.heard.shape[1]
        both = np.concatenate([self.before, x], axis=1)
        for a in range(2):
            self.heard[a, self.newest] = rfft(both[a])
        self.before = x.copy()
        total = np.empty((2, self.size + 1), np.complex128)
        _gather(self.heard, self.response, self.newest, total)
        return np.stack([irfft(total[b], 2 * self.size)[self.size :] for b in range(2)])


class Convolver:
    """A running convolution of two sides with a response of four paths.

    Parameters
    ----------
    response : ndarray, shape (2, 2, n)
    """

    def __init__(self, response: Floats) -> None:
        self._first = Stage(response[:, :, :LONG], SHORT)
        rest = response[:, :, LONG:]
        self._second = Stage(rest, LONG) if rest.shape[2] else None
        # Input that waits for its partition to be full, and output that waits to be asked for.
        self._input = np.zeros((2, LONG))
        self._output = np.zeros((2, SHORT))
        self._later = np.zeros((2, LONG))
        self._place: int | None = None

    def process(self, x: Floats, at: int) -> Floats:
        """Take input from place ``at`` on; give output for the places ``SHORT`` samples before.

        The first call sets where it begins; later ones go on from there.
        """
        if self._place is None:
            self._place = at
        n = x.shape[1]
        out = np.empty_like(x)
        done = 0
        while done < n:
            inside = self._place % SHORT
            some = min(n - done, SHORT - inside)
            here = self._place % LONG
            self._input[:, here : here + some] = x[:, done : done + some]
            out[:, done : done + some] = self._output[:, inside : inside + some]
            self._place += some
            done += some
            if self._place % SHORT == 0:
                self._turn()
        return out

    def _turn(self) -> None:
        """A short partition is full."""
        assert self._place is not None
        begin = (self._place - SHORT) % LONG
        self._output = self._first.advance(self._input[:, begin : begin + SHORT])
        if self._second is None:
            return
        self._output += self._later[:, begin : begin + SHORT]
        if self._place % LONG == 0:
            self._later = self._second.advance(self._input)

    def state(self) -> tuple[NDArray[np.generic], ...]:
        """A copy of all that later output depends on."""
        parts = [self._input, self._output, self._later, np.array(self._place or 0)]
        parts.append(np.array(self._place is not None))
        for stage in (self._first, self._second):
            if stage:
                parts += [stage.heard, stage.before, np.array(stage.newest)]
        return tuple(part.copy() for part in parts)

    def restore(self, state: tuple[NDArray[np.generic], ...]) -> None:
        """Continue from a state."""
        self._input, self._output, self._later = (np.array(p, float) for p in state[:3])
        self._place = int(state[3]) if state[4] else None
        rest = list(state[5:])
        for stage in (self._first, self._second):
            if stage:
                stage.heard = np.array(rest.pop(0), np.complex128)
                stage.before = np.array(rest.pop(0), float)
                stage.newest = int(rest.pop(0))
