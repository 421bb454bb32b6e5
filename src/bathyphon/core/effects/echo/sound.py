"""Echo: repeats that go on after the sound has ended, each duller, thinner or crossing sides.

Repeat *k* lies 20·k·log10(g) dB below the direct sound, where g is ``feedback`` or the factor
of ``drop_db``; a delay that moves bends the pitch as a tape echo does.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.decibels import gain_of_db
from bathyphon.core.dsp.delays import NOWHERE, faded, slewed
from bathyphon.core.dsp.mixing import mixed
from bathyphon.core.dsp.sections import faded_in, warped
from bathyphon.core.effects.echo.reach import LOOP_LIMIT, repeats_of
from bathyphon.core.effects.echo.repeats import lines_for, repeated
from bathyphon.core.effects.echo.table import GLIDES, HIGHEST_CUT, LOWEST_CUT
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings

SLEW, FADE_SECONDS = 0.5, 0.03


def _delays(settings: Settings, at: int, count: int) -> Floats:
    """Delays in samples of both sides, or one for both; those that never move are whole.

    Of shape (1 or 2, count), or (1 or 2, 1) if none moves.
    """
    rate = settings.sample_rate
    left, right = settings.curves["time_ms"], settings.curves["right_time_ms"]
    moves = left.moves or right.moves
    rows = []
    for curve in (left,) if right is left else (left, right):
        samples = curve.values(at, count if moves else 1, rate) * (rate / 1000.0)
        rows.append(samples if curve.moves else np.maximum(1.0, np.rint(samples)))
    return np.stack(rows)


def _factors(settings: Settings, at: int, count: int) -> tuple[Floats, Floats]:
    """Factor from one repeat to the next, of both sides."""
    most = 1.0 if repeats_of(settings) else LOOP_LIMIT
    if "drop_db" in settings.given:
        factor = settings.mapped("drop_db", lambda v: np.minimum(gain_of_db(-v), most), at, count)
        return factor, factor
    left = settings.mapped("feedback", lambda v: np.minimum(v / 100.0, most), at, count)
    right = settings.mapped("right_feedback", lambda v: np.minimum(v / 100.0, most), at, count)
    return left, right


class Course(NamedTuple):
    """What a block is repeated with, as :func:`repeated` wants it."""

    delay: Floats
    factors: tuple[Floats, Floats]
    cross: Floats
    cuts: tuple[Floats, Floats, Floats, Floats]


class Echo(Processor):
    """Direct sound and repeats; a fixed number of repeats runs through as many delay lines."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        longest = max(settings.curves[id].largest for id in ("time_ms", "right_time_ms"))
        stages = max(1, repeats_of(settings))
        self._lines = lines_for(stages, longest * settings.sample_rate / 1000.0)
        self._memory = np.zeros((stages, 2, 2))
        self._write = 0
        # Of each side: where a tape has got to, or which delays fade into each other.
        self._places = np.full((2, 3), NOWHERE)
        curves = settings.curves
        self._moves = settings.moves("time_ms", "right_time_ms")
        self._stands = not settings.moves(*curves)
        self._standing: Course | None = None
        # Cuts that are never heard are left out.
        self._cuts = (
            curves["low_cut_hz"].largest > LOWEST_CUT
            or curves["high_cut_hz"].smallest < HIGHEST_CUT
        )

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Add the repeats to one block."""
        s = self._settings
        n = x.shape[1]
        wet = np.empty((2, n))
        course = self._course(at, n)
        older, share = self._glide(course.delay)
        self._write = repeated(
            x,
            self._moves,
            course.delay,
            older,
            share,
            course.factors,
            course.cross,
            course.cuts,
            repeats_of(s) == 0,
            self._lines,
            self._memory,
            self._write,
            wet,
        )
        return mixed(
            x, wet, s.values("mix", at, n), s.values("dry_db", at, n), s.values("level_db", at, n)
        )

    def _course(self, at: int, n: int) -> Course:
        if self._standing is not None and self._standing.cross.size == n:
            return self._standing
        s = self._settings
        cross = s.mapped("cross", lambda v: v / 100.0, at, n)
        course = Course(_delays(s, at, n), _factors(s, at, n), cross, self._cut(at, n))
        self._standing = course if self._stands else None
        return course

    def _glide(self, delay: Floats) -> tuple[Floats, Floats]:
        """How delays move: like a tape, in place, or faded from older ones by a share."""
        s = self._settings
        older = share = np.empty((2, 0))
        if not self._moves:
            return older, share
        if s.choice("glide") == GLIDES.index("fade"):
            older, share = np.empty_like(delay), np.empty_like(delay)
            length = round(FADE_SECONDS * s.sample_rate)
            for side in range(delay.shape[0]):
                faded(delay[side], length, self._places[side], older[side], share[side])
            return older, share
        for side in range(delay.shape[0]):
            self._places[side, 0] = slewed(delay[side], SLEW, self._places[side, 0])
        return older, share

    def _cut(self, at: int, n: int) -> tuple[Floats, Floats, Floats, Floats]:
        s = self._settings
        none = np.empty(0)
        if not self._cuts:
            return none, none, none, none
        rate = s.sample_rate

        def gain(hz: Floats) -> Floats:
            g = warped(hz, rate)
            return g / (1.0 + g)

        return (
            s.mapped("low_cut_hz", gain, at, n),
            s.mapped("low_cut_hz", lambda hz: faded_in(hz, LOWEST_CUT, 10.0), at, n),
            s.mapped("high_cut_hz", gain, at, n),
            s.mapped("high_cut_hz", lambda hz: faded_in(hz, HIGHEST_CUT, -4000.0), at, n),
        )

    def state(self) -> State:
        """Delay lines, loop filters and the write position."""
        places = self._places.copy()
        return (self._lines.copy(), self._memory.copy(), np.array(self._write), places)

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._lines = state[0].copy()
        self._memory = state[1].copy()
        self._write = int(state[2])
        self._places = state[3].copy()


make = Echo
