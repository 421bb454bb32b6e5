"""Moving the pitch of a sound that arrives block by block."""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.speed.change import SpeedChange
from bathyphon.core.speed.latency import BLOCK, MARGIN_S, reach_of
from bathyphon.core.speed.ratio import ReadingSpeed, ShiftedPace
from bathyphon.core.speed.reading import Resampled
from bathyphon.core.speed.source import Source
from bathyphon.core.speed.stretch import Stretch, soon
from bathyphon.core.speed.tracked import Shift, Tracked
from bathyphon.core.speed.vocoder import State
from bathyphon.core.timing.pace import Steady


class Arriving:
    """Sound that arrives block by block, for as long as somebody needs it; silence before it."""

    def __init__(self) -> None:
        self._x = np.zeros((2, 0))
        self._begins = 0
        self._known = False

    def take(self, x: Floats, at: int) -> None:
        """Take the sound from sample ``at`` on, shape (2, n); it goes on where the last ended."""
        if not self._known:
            self._begins, self._known = at, True
        self._x = np.concatenate([self._x, x], axis=1)

    def read(self, start: int, stop: int) -> Floats:
        """Samples ``start … stop − 1``, shape (2, stop − start)."""
        out = np.zeros((2, stop - start))
        a, b = max(start, self._begins), min(stop, self._begins + self._x.shape[1])
        if a < b:
            out[:, a - start : b - start] = self._x[:, a - self._begins : b - self._begins]
        return out

    def forget_before(self, first: int) -> None:
        """Drop what nobody needs any more."""
        drop = first - self._begins
        # Not for every block: moving the rest costs as much as dropping it saves.
        if drop > 8 * BLOCK:
            self._x = self._x[:, drop:].copy()
            self._begins = first

    def state(self, first: int) -> State:
        """What is held from a sample on."""
        drop = min(max(0, first - self._begins), self._x.shape[1])
        head = np.array([self._known, self._begins + drop], np.int64)
        return head, self._x[:, drop:].copy()

    def restore(self, state: State) -> None:
        """Continue from a state."""
        head, x = state
        self._known, self._begins = bool(head[0]), int(head[1])
        self._x = x.copy()


class Shifter:
    """A sound at another pitch, as it arrives; sample 0 is that of the change's curves.

    Parameters
    ----------
    arriving : Arriving
    change : SpeedChange
        At 100 % of the speed.
    sample_rate : int
    shift : callable, optional
        Semitones to move by besides, for the notes that are heard.
    """

    def __init__(
        self,
        arriving: Arriving,
        change: SpeedChange,
        sample_rate: int,
        shift: Shift | None = None,
    ) -> None:
        self._arriving = arriving
        self._shift = shift
        self._change = change
        self._rate = sample_rate
        self._grid = soon(sample_rate)
        self._build()

    def _build(self) -> None:
        own = self._change.ratio(self._rate)
        self._tracked: Tracked | None = None
        if self._shift is not None:
            self._tracked = Tracked(own, self._arriving.read, self._shift, self._rate)
        ratio: ReadingSpeed = self._tracked or own
        self._stretch = Stretch(
            Source(self._arriving.read, self._rate, BLOCK),
            ShiftedPace(Steady(100.0), ratio),
            self._change.material == "voice",
            self._change.envelope(ratio, self._rate),
            self._grid,
        )
        self._ratio = ratio
        self._reading = Resampled(self._stretch.read, ratio.at, ratio.speeds)

    def begin_at(self, at: int) -> None:
        """Say that the sound is first heard at a sample of the output, 0 if it is not said."""
        early = max(0, at - BLOCK)
        if self._tracked is not None:
            self._tracked.begin_at(early)
        place = float(self._ratio.at(np.array([float(early)]))[0])
        self._stretch.begin_at(max(0, int(place) - reach_of(4.0)))

    def read(self, start: int, stop: int) -> Floats:
        """Output, shape (2, stop − start), for which all input has arrived."""
        return np.broadcast_to(self._reading.read(start, stop), (2, stop - start))

    def needs(self, at: int) -> int:
        """First sample of the input that the output from sample ``at`` on may still need."""
        chunk, _ = self._checkpoint(at)
        self._stretch.forget_before(chunk)
        first = self._reaches(chunk)
        return first - (int(MARGIN_S * self._rate) if self._tracked else 0)

    def _reaches(self, chunk: int) -> int:
        """First sample of the input that a chunk of the stretch needs."""
        begins = chunk * self._grid.chunk
        return self._stretch.reaches(begins, begins)[0]

    def _checkpoint(self, at: int) -> tuple[int, State]:
        place = float(self._ratio.at(np.array([float(at)]))[0])
        return self._stretch.checkpoint(int(place) - reach_of(4.0))

    def state(self, at: int) -> State:
        """All that the output from sample ``at`` on depends on, beside the input."""
        chunk, band = self._checkpoint(at)
        head = np.array([chunk, len(band)], np.int64)
        if self._tracked is None:
            return (head, *band)
        # As far back as what is made anew from the checkpoint is read from.
        first = self._reaches(chunk)
        return (head, *band, *self._tracked.state(first))

    def restore(self, state: State) -> None:
        """Continue from a state."""
        head, *rest = state
        self._build()
        chunk, count = (int(n) for n in head)
        self._stretch.start_at(chunk, tuple(rest[:count]))
        if self._tracked is not None:
            self._tracked.restore(tuple(rest[count:]))
