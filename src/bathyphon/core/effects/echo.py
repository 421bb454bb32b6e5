"""Echo: repeats that go on after the sound has ended, each duller, thinner or crossing sides.

Repeat *k* lies 20·k·log10(g) dB below the direct sound, where g is ``feedback`` or the factor
of ``drop_db``; a delay that moves bends the pitch as a tape echo does.
"""

from __future__ import annotations

import math

import numpy as np
from numba import njit

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
from bathyphon.core.effects.delays import NOWHERE, faded, slewed, tap
from bathyphon.core.effects.distance import MEDIA
from bathyphon.core.effects.filters import FLUSH, warped
from bathyphon.core.effects.mixing import mixed

LOWEST_CUT, HIGHEST_CUT = 20.0, 20000.0
LOOP_LIMIT = 0.99
GLIDES = ("tape", "fade")
SLEW, FADE_SECONDS = 0.5, 0.03


@njit(cache=True, nogil=True)
def _run(
    x: Floats,
    delay: Floats,
    older: Floats,
    share: Floats,
    factor: Floats,
    cross: Floats,
    low_cut: Floats,
    high_cut: Floats,
    sample_rate: float,
    endless: bool,
    lines: Floats,
    memory: Floats,
    write: int,
    wet: Floats,
) -> int:  # pragma: no cover - compiled
    stages = lines.shape[0]
    size = lines.shape[2]
    last_low = last_high = -1.0
    low_gain = high_gain = low_share = high_share = 0.0
    for i in range(x.shape[1]):
        if low_cut[i] != last_low:
            last_low = low_cut[i]
            g = warped(last_low, sample_rate)
            low_gain = g / (1.0 + g)
            u = min(max((last_low - 20.0) / 10.0, 0.0), 1.0)
            low_share = u * u * (3.0 - 2.0 * u)
        if high_cut[i] != last_high:
            last_high = high_cut[i]
            g = warped(last_high, sample_rate)
            high_gain = g / (1.0 + g)
            u = min(max((20000.0 - last_high) / 4000.0, 0.0), 1.0)
            high_share = u * u * (3.0 - 2.0 * u)
        left_in = x[0, i]
        right_in = x[1, i]
        wet_left = wet_right = 0.0
        for s in range(stages):
            left = tap(lines[s, 0], size, write, delay[0, i])
            right = tap(lines[s, 1], size, write, delay[1, i])
            if share[0, i] < 1.0:
                was = tap(lines[s, 0], size, write, older[0, i])
                left = was + share[0, i] * (left - was)
            if share[1, i] < 1.0:
                was = tap(lines[s, 1], size, write, older[1, i])
                right = was + share[1, i] * (right - was)
            m = memory[s]
            # One-pole low cut and high cut, left out entirely at the ends of their ranges.
            v = (left - m[0]) * low_gain
            low = v + m[0]
            m[0] = low + v
            left -= low_share * low
            v = (right - m[1]) * low_gain
            low = v + m[1]
            m[1] = low + v
            right -= low_share * low
            v = (left - m[2]) * high_gain
            low = v + m[2]
            m[2] = low + v
            left += high_share * (low - left)
            v = (right - m[3]) * high_gain
            low = v + m[3]
            m[3] = low + v
            right += high_share * (low - right)
            for k in range(4):
                if abs(m[k]) < FLUSH:
                    m[k] = 0.0
            left *= factor[0, i]
            right *= factor[1, i]
            c = cross[i]
            out_left = (1.0 - c) * left + c * right
            out_right = (1.0 - c) * right + c * left
            if endless:
                left_in += out_left
                right_in += out_right
            if abs(left_in) < FLUSH:
                left_in = 0.0
            if abs(right_in) < FLUSH:
                right_in = 0.0
            lines[s, 0, write] = left_in
            lines[s, 1, write] = right_in
            left_in = out_left
            right_in = out_right
            wet_left += out_left
            wet_right += out_right
        wet[0, i] = wet_left
        wet[1, i] = wet_right
        write += 1
        if write == size:
            write = 0
    return write


def _delays(settings: Settings, at: int, count: int) -> Floats:
    """Delays of both sides in samples; one that never moves is a whole number of samples."""
    rows = []
    for id in ("time_ms", "right_time_ms"):
        samples = settings.values(id, at, count) * (settings.sample_rate / 1000.0)
        rows.append(samples if settings.curves[id].moves else np.maximum(1.0, np.rint(samples)))
    return np.stack(rows)


def _factors(settings: Settings, at: int, count: int) -> Floats:
    """Factor from one repeat to the next, per side."""
    if "drop_db" in settings.given:
        factor = gain_of_db(-settings.values("drop_db", at, count))
        both = np.stack([factor, factor])
    else:
        both = np.stack(
            [settings.values(id, at, count) / 100.0 for id in ("feedback", "right_feedback")]
        )
    return both if _repeats(settings) else np.minimum(both, LOOP_LIMIT)


def _repeats(settings: Settings) -> int:
    return int(settings.fixed("repeats"))


class Echo(Processor):
    """Direct sound and repeats; a fixed number of repeats runs through as many delay lines."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        longest = max(settings.curves[id].largest for id in ("time_ms", "right_time_ms"))
        size = math.ceil(longest * settings.sample_rate / 1000.0) + 4
        stages = max(1, _repeats(settings))
        self._lines = np.zeros((stages, 2, size))
        self._memory = np.zeros((stages, 4))
        self._write = 0
        # Of each side: where a tape has got to, or which delays fade into each other.
        self._places = np.full((2, 3), NOWHERE)

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Add the repeats to one block."""
        s = self._settings
        n = x.shape[1]
        wet = np.empty_like(x)
        delay = _delays(s, at, n)
        older, share = delay, np.ones_like(delay)
        if s.choice("glide") == GLIDES.index("fade"):
            older = np.empty_like(delay)
            length = round(FADE_SECONDS * s.sample_rate)
            for side in range(2):
                faded(delay[side], length, self._places[side], older[side], share[side])
        else:
            for side in range(2):
                self._places[side, 0] = slewed(delay[side], SLEW, self._places[side, 0])
        self._write = _run(
            x,
            delay,
            older,
            share,
            _factors(s, at, n),
            s.values("cross", at, n) / 100.0,
            s.values("low_cut_hz", at, n),
            s.values("high_cut_hz", at, n),
            float(s.sample_rate),
            _repeats(s) == 0,
            self._lines,
            self._memory,
            self._write,
            wet,
        )
        return mixed(
            x, wet, s.values("mix", at, n), s.values("dry_db", at, n), s.values("level_db", at, n)
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
