"""Reverb: a room whose decay time is the one that is set, ringing out past a cut."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.dsp.cascade import memory_for, stacked, through
from bathyphon.core.dsp.decibels import gain_of_db
from bathyphon.core.dsp.delays import NOWHERE, slewed
from bathyphon.core.dsp.eights import aligned, load, splat, store
from bathyphon.core.dsp.mixing import mixed, standing_shares, widened
from bathyphon.core.dsp.sections import BUTTERWORTH_2, high_cut, low_cut
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.effects.reverb import early, lines, matrix, network
from bathyphon.core.effects.reverb.rings import Places
from bathyphon.core.timing.shapes import glide_samples

DIFFUSION = 0.8
SLEW = 0.5
LOWEST_CUT, HIGHEST_CUT = 10.0, 20000.0


class Benches(NamedTuple):
    """Room for what is worked on, overwritten in each stretch.

    Parameters
    ----------
    handed : tuple of ndarray, each of shape (2 · SIDE,)
        What is handed on: reflections, the diffused sound, the field.
    early, network : ndarray, and a pair of them
        What each of both needs for itself.
    """

    handed: tuple[Floats, Floats, Floats]
    early: Floats
    network: tuple[Floats, Places]


@njit(cache=True, nogil=True)
def _sum(
    dry: Floats, at: int, shares: tuple[float, float], reflected: Floats, heard: Floats,
    first: int, count: int, out: Floats,
) -> None:  # pragma: no cover - compiled  # fmt: skip
    """Direct sound and room together, from ``at`` on."""
    a, b = splat(shares[0]), splat(shares[1])
    whole = count & ~7
    for i in range(0, whole, 8):
        wet = load(reflected, first + i) + load(heard, first + i)
        store(out, at + i, a * load(dry, at + i) + b * wet)
    for i in range(whole, count):
        wet = reflected[first + i] + heard[first + i]
        out[at + i] = shares[0] * dry[at + i] + shares[1] * wet


@njit(cache=True, nogil=True)
def _room(
    x: Floats,
    at: int,
    rate: float,
    near: early.Settings,
    late: network.Settings,
    standing: early.Standing,
    field: tuple[Floats, Floats],
    rings: early.Rings,
    written: int,
    benches: Benches,
    lines: network.Lines,
    shares: tuple[float, float],
    out: Floats,
) -> int:  # pragma: no cover - compiled
    """All of the room, a short stretch after the other.

    ``field`` holds the lengths of the network's lines and the constants of its matrix, ``shares``
    factors on the direct sound and on the room; ``written`` counts samples, and the new count is
    returned.
    """
    reflected, diffused, heard = benches.handed
    n = x.shape[1]
    sound, flat = x.ravel(), out.ravel()
    for i in range(0, n, early.SHARED):
        j = min(i + early.SHARED, n)
        written = early.before_the_field(
            x, i, j, near, rate, standing, rings, written, benches.early, reflected, diffused
        )
        network.run(diffused, i, j, at, late, rate, field, benches.network, lines, heard)
        for side in range(2):
            first = side * early.SIDE
            _sum(sound, side * n + i, shares, reflected, heard, first, j - i, flat)
    return written


class Reverb(Processor):
    """Pre-delay, early reflections, diffusion, and a feedback delay network."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        rate = settings.sample_rate
        size = settings.curves["size"].largest
        self._network = network.buffers(size, rate)
        reach = settings.curves["predelay_ms"].largest + 0.01 * size * float(early.EARLY_MS.max())
        handed = aligned(2 * early.SIDE), aligned(2 * early.SIDE), aligned(2 * early.SIDE)
        self._benches = Benches(handed, early.workbench(), network.workbench())
        self._rings = early.buffers(reach, rate)
        fixed = settings.fixed
        self._standing = early.placed(fixed("predelay_ms") * rate / 1000.0, fixed("size"), rate)
        self._spread = self._spreading(0, 1)
        self._cuts = memory_for(3)
        self._written = 0
        self._place = NOWHERE
        # At the ends of their ranges the cuts are left out.
        curves = settings.curves
        self._open = (
            curves["low_cut_hz"].largest <= LOWEST_CUT
            and curves["high_cut_hz"].smallest >= HIGHEST_CUT
        )
        self._wide = settings.moves("width") or fixed("width") != 100.0
        self._mixes = not self._open or self._wide or settings.moves("mix", "dry_db")
        shares = standing_shares(fixed("mix"), fixed("dry_db"))
        self._shares = (0.0, 1.0) if self._mixes else shares

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Add the room to one block."""
        s = self._settings
        n = x.shape[1]
        rate = float(s.sample_rate)

        def value(id: str) -> Floats:
            return s.values(id, at, n)

        size = value("size")
        predelay = s.mapped("predelay_ms", lambda ms: ms * (rate / 1000.0), at, n)
        moves = s.moves("predelay_ms", "size")
        if moves:
            self._place = slewed(predelay, SLEW, self._place)
        out = np.empty(x.shape)
        decay = value("decay_s")
        spreads = s.moves("decay_s", "diffusion")
        near = early.Settings(
            predelay,
            size,
            s.mapped("early_db", gain_of_db, at, n),
            self._spreading(at, n) if spreads else self._spread,
            moves,
        )
        late = network.Settings(
            decay,
            value("bass_decay"),
            value("treble_decay"),
            size,
            self._held(at, n),
            s.curves["freeze"].largest > 0.0,
        )
        self._written = _room(
            x,
            at,
            rate,
            near,
            late,
            self._standing,
            (lines.LENGTHS_MS, matrix.CONSTANTS),
            self._rings,
            self._written,
            self._benches,
            self._network,
            self._shares,
            out,
        )
        if not self._open:
            cuts = high_cut(value("high_cut_hz"), BUTTERWORTH_2, rate)
            cuts.append(low_cut(value("low_cut_hz"), rate))
            out = through(stacked(cuts), out, at, self._cuts)
        if self._wide:
            widened(out, value("width"))
        return mixed(x, out, value("mix"), value("dry_db")) if self._mixes else out

    def _spreading(self, at: int, n: int) -> Floats:
        """Coefficients of the all-passes."""
        s = self._settings
        diffusion = s.values("diffusion", at, n) * (DIFFUSION / 100.0)
        return early.spreading(diffusion, s.values("decay_s", at, n))

    def _held(self, at: int, n: int) -> Floats:
        """How far the room is frozen; at its owner's end it is let go."""
        s = self._settings
        held = s.values("freeze", at, n)
        if s.length is None or at + n <= s.length or not held.any():
            return held
        after = np.clip((np.arange(at, at + n) - s.length) / glide_samples(s.sample_rate), 0.0, 1.0)
        released: Floats = held * (1.0 - after * after * (3.0 - 2.0 * after))
        return released

    def state(self) -> State:
        """All delay lines and memories."""
        places = np.array([self._written, self._place])
        return (*(part.copy() for part in self._memories()), places)

    def restore(self, state: State) -> None:
        """Continue from a state."""
        for own, part in zip(self._memories(), state[:-1], strict=True):
            own[...] = part
        self._written, self._place = int(state[-1][0]), float(state[-1][1])

    def _memories(self) -> State:
        return (*self._network, *self._rings, self._cuts)


make = Reverb
