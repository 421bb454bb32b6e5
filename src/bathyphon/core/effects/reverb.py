"""Reverb: a room whose decay time is the one that is set, ringing out past a cut."""

from __future__ import annotations

import math

import numpy as np
from numba import njit

from bathyphon.core.curves import Floats, gain_of_db, glide_samples
from bathyphon.core.effects.base import (
    TAIL_FALL_DB,
    TAIL_LIMIT_SECONDS,
    Effect,
    Parameter,
    Processor,
    Settings,
    State,
)
from bathyphon.core.effects.cascade import memory_for, through
from bathyphon.core.effects.delays import NOWHERE, slewed
from bathyphon.core.effects.lanes import aligned
from bathyphon.core.effects.mixing import mixed, widened
from bathyphon.core.effects.rooms import early, network
from bathyphon.core.effects.sections import BUTTERWORTH_2, high_cut, low_cut

LONGEST_PREDELAY_MS = 500.0
DIFFUSION = 0.8
SLEW = 0.5
LOWEST_CUT, HIGHEST_CUT = 10.0, 20000.0


@njit(cache=True, nogil=True)
def _room(
    x: Floats,
    at: int,
    rate: float,
    near: tuple[Floats, Floats, Floats],
    moves: bool,
    spread: Floats,
    far: tuple[Floats, Floats, Floats, Floats],
    freezes: bool,
    reflections: tuple[Floats, Floats, Floats],
    field: tuple[Floats, Floats, Floats],
    past: Floats,
    passes: Floats,
    written: int,
    benches: tuple[Floats, Floats, Floats],
    lines: tuple[Floats, network.Places, network.Places, Floats, Floats, Floats, Floats],
    out: Floats,
) -> int:  # pragma: no cover - compiled
    """All of the room, a short stretch after the other.

    ``near`` holds pre-delay, size and early level, ``far`` decay, bass, treble and freeze;
    ``reflections`` and ``field`` what never changes.
    """
    predelay, size, level = near
    decay, bass, treble, freeze = far
    ms, levels, diffusion_ms = reflections
    lengths_ms, turn_hz, constants = field
    ring, rooms, writes, filters, coefficients, lengths, known = lines
    diffused, first_bench, second_bench = benches
    n = x.shape[1]
    for i in range(0, n, early.SHARED):
        j = min(i + early.SHARED, n)
        written = early.before_the_field(
            x, i, j, predelay, size, moves, level, spread, rate, ms, levels, diffusion_ms,
            past, passes, written, first_bench, out, diffused,
        )  # fmt: skip
        network.run(
            diffused, i, j, at, decay, bass, treble, size, freeze, freezes, rate, lengths_ms,
            turn_hz, constants, second_bench, ring, rooms, writes, filters, coefficients, lengths,
            known, out,
        )  # fmt: skip
    return written


class Reverb(Processor):
    """Pre-delay, early reflections, diffusion, and a feedback delay network."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        rate = settings.sample_rate
        size = settings.curves["size"].largest
        self._network = network.buffers(size, rate)
        reach = settings.curves["predelay_ms"].largest + 0.01 * size * float(early.EARLY_MS.max())
        self._benches = aligned(2 * early.SHARED), early.workbench(), network.workbench()
        self._past, self._passes = early.buffers(reach, rate)
        self._cuts = memory_for(3)
        self._written = 0
        self._place = NOWHERE
        # At the ends of their ranges the cuts are left out.
        curves = settings.curves
        self._open = (
            curves["low_cut_hz"].largest <= LOWEST_CUT
            and curves["high_cut_hz"].smallest >= HIGHEST_CUT
        )

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Add the room to one block."""
        s = self._settings
        n = x.shape[1]
        rate = float(s.sample_rate)

        def value(id: str) -> Floats:
            return s.values(id, at, n)

        size = value("size")
        predelay = value("predelay_ms") * (rate / 1000.0)
        moves = s.moves("predelay_ms", "size")
        if moves:
            self._place = slewed(predelay, SLEW, self._place)
        field = np.empty(x.shape)
        decay, diffusion = value("decay_s"), value("diffusion") * (DIFFUSION / 100.0)
        count = n if s.moves("decay_s", "diffusion") else 1
        self._written = _room(
            x,
            at,
            rate,
            (predelay, size, gain_of_db(value("early_db"))),
            moves,
            early.spreading(diffusion[:count], decay[:count]),
            (decay, value("bass_decay"), value("treble_decay"), self._held(at, n)),
            s.curves["freeze"].largest > 0.0,
            (early.EARLY_MS, early.EARLY_LEVEL, early.DIFFUSION_MS),
            (network.LENGTHS_MS, network.TURN_HZ, network.CONSTANTS),
            self._past,
            self._passes,
            self._written,
            self._benches,
            self._network,
            field,
        )
        wet = field
        if not self._open:
            cuts = high_cut(value("high_cut_hz"), BUTTERWORTH_2, rate)
            wet = through([*cuts, low_cut(value("low_cut_hz"), rate)], field, at, self._cuts)
        if s.moves("width") or s.fixed("width") != 100.0:
            widened(wet, value("width"))
        return mixed(x, wet, value("mix"), value("dry_db"))

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
        return (*self._network, self._past, self._passes, self._cuts)


def tail(settings: Settings) -> int:
    """Samples until the slowest band has fallen 90 dB."""
    curves = settings.curves
    if curves["mix"].largest <= 0.0:
        return 0
    slowest = max(1.0, curves["bass_decay"].largest, curves["treble_decay"].largest)
    first_ms = curves["predelay_ms"].largest + curves["size"].largest / 100.0 * float(
        network.LENGTHS_MS[-1]
    )
    seconds = TAIL_FALL_DB / 60.0 * curves["decay_s"].largest * slowest + first_ms / 1000.0
    return math.ceil(min(seconds, TAIL_LIMIT_SECONDS) * settings.sample_rate)


EFFECT = Effect(
    id="reverb",
    label="Reverb",
    engages="send",
    parameters=(
        Parameter(
            "decay_s", "Decay", "s", 0.1, 30.0, "log", default=1.8,
            help="The time in which the room falls by 60 dB.",
        ),
        Parameter(
            "size", "Size", "%", 10.0, 200.0, "log", default=100.0,
            help="From a cupboard to a hall: how far the walls are apart.",
        ),
        Parameter(
            "mix", "Mix", "%", 0.0, 100.0, "linear", default=35.0,
            help="Up to 50 % the direct sound stays whole; at 100 % only the room is left.",
        ),
        Parameter(
            "predelay_ms", "Pre-delay", "ms", 0.0, LONGEST_PREDELAY_MS, "linear", default=12.0,
            help="Time before the room answers; a larger one keeps words clear.",
        ),
        Parameter(
            "treble_decay", "Treble decay", "×", 0.1, 2.0, "log", default=0.6,
            help="Decay above 2.8 kHz as a share of the middle: below 1 is soft, as with curtains.",
        ),
        Parameter(
            "bass_decay", "Bass decay", "×", 0.1, 3.0, "log", default=1.1,
            help="Decay below 350 Hz as a share of the middle: above 1 is cavernous.",
        ),
        Parameter(
            "early_db", "Early", "dB", -96.0, 12.0, "db", default=-9.0,
            help="The first reflections, by which one hears how near the walls are.",
        ),
        Parameter(
            "diffusion", "Diffusion", "%", 0.0, 100.0, "linear", default=85.0,
            help="Low: single reflections, as from bare stone; high: smooth from the start.",
        ),
        Parameter(
            "width", "Width", "%", 0.0, 200.0, "linear", default=100.0,
            help="Stereo width of the room; the direct sound keeps its own.",
        ),
        Parameter(
            "low_cut_hz", "Low cut", "Hz", 10.0, 2000.0, "log", default=10.0,
            help="Takes rumble from the room's sound.",
        ),
        Parameter(
            "high_cut_hz", "High cut", "Hz", 200.0, 20000.0, "log", default=20000.0,
            help="Takes brightness from the room's sound.",
        ),
        Parameter(
            "freeze", "Freeze", "", 0.0, 1.0, "linear", default=0.0, whole=True,
            help="Holds what rings at this moment for ever, and lets nothing new in.",
        ),
        Parameter(
            "dry_db", "Direct", "dB", -96.0, 12.0, "db", default=0.0,
            help="Level of the direct sound, apart from the room.",
        ),
    ),
    telling=("decay_s", "size", "mix"),
    make=Reverb,
    tail=tail,
    help="A room around the sound, which rings out past a cut.",
)  # fmt: skip
