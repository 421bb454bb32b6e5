"""Convolution with long responses, block by block, on a grid that is fixed to the owner.

Partitioned overlap-save (W. G. Gardner, "Efficient convolution without input-output delay",
J. Audio Eng. Soc. 43, 1995), here in two sizes: short partitions for the beginning of the
response, and longer ones, whose work is much less, for what can wait that long. It answers one
short partition late.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.fft import irfft, rfft
from numpy.typing import NDArray

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.dsp.latency import CONVOLUTION

SHORT = CONVOLUTION
LONG = 16384


@njit(cache=True, nogil=True)
def _add_product(
    x: Floats, h: Floats, re: Floats, im: Floats
) -> None:  # pragma: no cover - compiled
    """Add x · h, both complex with their parts in rows, to a sum whose parts lie apart."""
    xr, xi, hr, hi = x[0], x[1], h[0], h[1]
    for i in range(re.size):
        re[i] += xr[i] * hr[i] - xi[i] * hi[i]
    for i in range(im.size):
        im[i] += xr[i] * hi[i] + xi[i] * hr[i]


@njit(cache=True, nogil=True)
def _gather(
    heard: Floats, response: Floats, newest: int, out: Floats
) -> None:  # pragma: no cover - compiled
    """Sum of products of the last inputs' spectra and the partitions', in a fixed order.

    ``heard`` is (2, count, 2, bins), a ring; ``response`` (2, 2, count, 2, bins); ``out``
    (2, 2, bins). Real and imaginary parts lie in rows of their own, so that several bins are done
    at once.
    """
    count = heard.shape[1]
    out[:] = 0.0
    for k in range(count):
        place = newest - k
        if place < 0:
            place += count
        for a in range(2):
            for b in range(2):
                _add_product(heard[a, place], response[a, b, k], out[b, 0], out[b, 1])


def _parts(spectrum: NDArray[np.complex128]) -> Floats:
    """Real and imaginary parts as rows."""
    return np.stack([spectrum.real, spectrum.imag], axis=-2)


def _partitions(response: Floats, size: int) -> Floats:
    """Spectra of a response's partitions, shape (2, 2, count, 2, size + 1)."""
    count = max(1, -(-response.shape[2] // size))
    padded = np.zeros((2, 2, count * size))
    padded[:, :, : response.shape[2]] = response
    return _parts(rfft(padded.reshape(2, 2, count, size), 2 * size, axis=-1))


@dataclass(frozen=True)
class Partitioned:
    """A response as convolvers need it; many of them may share it.

    Parameters
    ----------
    short, long : ndarray
        Spectra of the short partitions, and of the long ones if the response has so much.
    """

    short: Floats
    long: Floats | None


def partitioned(response: Floats) -> Partitioned:
    """Cut up a response of four paths, shape (2, 2, n): input side, output side, samples."""
    rest = response[:, :, LONG:]
    return Partitioned(
        _partitions(response[:, :, :LONG], SHORT),
        _partitions(rest, LONG) if rest.shape[2] else None,
    )


class Stage:
    """Partitions of one size at work.

    Parameters
    ----------
    response : ndarray, shape (2, 2, count, 2, size + 1)
    """

    def __init__(self, response: Floats) -> None:
        self.size = size = response.shape[4] - 1
        self.response = response
        self.heard = np.zeros((2, response.shape[2], 2, size + 1))
        self.before = np.zeros((2, size))
        self.newest = 0

    def advance(self, x: Floats) -> Floats:
        """Take a partition of input, shape (2, size), and give that of output."""
        self.newest = (self.newest + 1) % self.heard.shape[1]
        both = np.concatenate([self.before, x], axis=1)
        for a in range(2):
            self.heard[a, self.newest] = _parts(rfft(both[a]))
        self.before = x.copy()
        total = np.empty((2, 2, self.size + 1))
        _gather(self.heard, self.response, self.newest, total)
        whole = total[:, 0] + 1j * total[:, 1]
        return np.stack([irfft(whole[b], 2 * self.size)[self.size :] for b in range(2)])


class Convolver:
    """A running convolution of two sides with a response of four paths."""

    def __init__(self, response: Partitioned) -> None:
        self._first = Stage(response.short)
        self._second = Stage(response.long) if response.long is not None else None
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
                stage.heard = np.array(rest.pop(0), float)
                stage.before = np.array(rest.pop(0), float)
                stage.newest = int(rest.pop(0))
