"""Echo: repeats that go on after the sound has ended, each duller, thinner or crossing sides.

Repeat *k* lies 20·k·log10(g) dB below the direct sound, where g is ``feedback`` or the factor
of ``drop_db``; a delay that moves bends the pitch as a tape echo does.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from bathyphon.core.curves import Curve, Floats, gain_of_db
from bathyphon.core.effects.base import (
    TAIL_FALL_DB,
    TAIL_LIMIT_SECONDS,
    Effect,
    Parameter,
    Processor,
    Settings,
    State,
)
from bathyphon.core.effects.delays import NOWHERE, faded, slewed
from bathyphon.core.effects.distance import MEDIA
from bathyphon.core.effects.mixing import mixed
from bathyphon.core.effects.repeats import lines_for, repeated
from bathyphon.core.effects.sections import faded_in, warped

LOWEST_CUT, HIGHEST_CUT = 20.0, 20000.0
LOOP_LIMIT = 0.99
GLIDES = ("tape", "fade")
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
    most = 1.0 if _repeats(settings) else LOOP_LIMIT
    if "drop_db" in settings.given:
        factor = settings.mapped("drop_db", lambda v: np.minimum(gain_of_db(-v), most), at, count)
        return factor, factor
    left = settings.mapped("feedback", lambda v: np.minimum(v / 100.0, most), at, count)
    right = settings.mapped("right_feedback", lambda v: np.minimum(v / 100.0, most), at, count)
    return left, right


def _repeats(settings: Settings) -> int:
    return int(settings.fixed("repeats"))


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
        stages = max(1, _repeats(settings))
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
            _repeats(s) == 0,
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


def tail(settings: Settings) -> int:
    """Samples until the last repeat of a full-scale sound has fallen 90 dB below the first."""
    curves = settings.curves

    def gain(feedback: Curve) -> float:
        if "drop_db" in settings.given:
            return float(10.0 ** (-curves["drop_db"].smallest / 20.0))
        return feedback.largest / 100.0

    sides = [
        (curves["time_ms"].largest, gain(curves["feedback"])),
        (curves["right_time_ms"].largest, gain(curves["right_feedback"])),
    ]
    if curves["cross"].largest > 0.0:
        sides = [(max(t for t, _ in sides), max(g for _, g in sides))]
    count = _repeats(settings)
    longest = 0.0
    for time_ms, factor in sides:
        if factor <= 0.0 or curves["mix"].largest <= 0.0:
            continue
        if count:
            # The closing fade must not eat the last repeat, nor its low cut's swing-back.
            ring_ms = 20.0 + 1000.0 * count / curves["low_cut_hz"].smallest
            longest = max(longest, count * time_ms + ring_ms)
        else:
            repeats = math.ceil(TAIL_FALL_DB / (-20.0 * math.log10(min(factor, LOOP_LIMIT))))
            longest = max(longest, (repeats + 1) * time_ms)
    return math.ceil(min(longest / 1000.0, TAIL_LIMIT_SECONDS) * settings.sample_rate)


EFFECT = Effect(
    id="echo",
    label="Echo",
    engages="send",
    parameters=(
        Parameter(
            "time_ms",
            "Time",
            "ms",
            1.0,
            10000.0,
            "log",
            default=350.0,
            help="From one repeat to the next.",
        ),
        Parameter(
            "feedback",
            "Feedback",
            "%",
            0.0,
            99.0,
            "linear",
            default=40.0,
            help="Each repeat's share of the one before.",
        ),
        Parameter(
            "mix",
            "Mix",
            "%",
            0.0,
            100.0,
            "linear",
            default=50.0,
            help="Up to 50 % the direct sound stays whole; at 100 % only the repeats are left.",
        ),
        Parameter(
            "high_cut_hz",
            "High cut",
            "Hz",
            100.0,
            HIGHEST_CUT,
            "log",
            default=HIGHEST_CUT,
            help="Each repeat duller than the one before; fully open at 20 kHz.",
        ),
        Parameter(
            "low_cut_hz",
            "Low cut",
            "Hz",
            LOWEST_CUT,
            4000.0,
            "log",
            default=LOWEST_CUT,
            help="Each repeat thinner than the one before; fully open at 20 Hz.",
        ),
        Parameter(
            "right_time_ms",
            "Right time",
            "ms",
            1.0,
            10000.0,
            "log",
            default=None,
            follows="time_ms",
            help="Time on the right side, as on the left until set.",
        ),
        Parameter(
            "right_feedback",
            "Right feedback",
            "%",
            0.0,
            99.0,
            "linear",
            default=None,
            follows="feedback",
            help="Feedback on the right side, as on the left until set.",
        ),
        Parameter(
            "cross",
            "Cross",
            "%",
            0.0,
            100.0,
            "linear",
            default=0.0,
            help="How much of each repeat changes sides; 100 % goes to and fro.",
        ),
        Parameter(
            "repeats",
            "Repeats",
            "",
            0.0,
            24.0,
            "linear",
            default=0.0,
            movable=False,
            whole=True,
            help="A fixed number of repeats; 0 goes on until silent.",
        ),
        Parameter(
            "drop_db",
            "Drop",
            "dB",
            0.0,
            60.0,
            "linear",
            default=None,
            help="Fall from one repeat to the next; once set, it replaces feedback.",
        ),
        Parameter(
            "medium",
            "Distance in",
            "",
            0.0,
            1.0,
            "linear",
            default=0.0,
            movable=False,
            choices=MEDIA,
            help="What the sound travels through, for times that are given in metres.",
        ),
        Parameter(
            "temperature_c",
            "Temperature",
            "°C",
            -20.0,
            50.0,
            "linear",
            default=20.0,
            movable=False,
            help="Sound is faster where it is warm; for times that are given in metres.",
        ),
        Parameter(
            "glide",
            "Moving time",
            "",
            0.0,
            1.0,
            "linear",
            default=0.0,
            movable=False,
            choices=GLIDES,
            help="A time that moves bends the pitch like a tape, or fades from one to the next.",
        ),
        Parameter(
            "dry_db",
            "Direct",
            "dB",
            -96.0,
            12.0,
            "db",
            default=0.0,
            help="Level of the direct sound, apart from the repeats.",
        ),
        Parameter(
            "level_db",
            "Echo level",
            "dB",
            -96.0,
            12.0,
            "db",
            default=0.0,
            help="Level of the repeats, apart from the direct sound.",
        ),
    ),
    telling=("time_ms", "feedback", "mix"),
    make=Echo,
    tail=tail,
    help="Repeats that go on after the sound has ended.",
)
