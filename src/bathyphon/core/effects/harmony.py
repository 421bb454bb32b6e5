"""Harmony: up to eight voices at other pitches beside the direct sound."""

from __future__ import annotations

import numpy as np

from bathyphon.core.curves import Curve, Floats, gain_of_db
from bathyphon.core.effects.base import Effect, Group, Parameter, Processor, Settings, State
from bathyphon.core.effects.cascade import memory_for, stacked, through
from bathyphon.core.effects.delays import delayed
from bathyphon.core.effects.pan import law_gains
from bathyphon.core.effects.pitch import FORMANTS, KEY, LOOKBACK_S, MATERIAL, lowest_ratio, shift_by
from bathyphon.core.effects.sections import butterworth_qs, high_pass, low_pass
from bathyphon.core.measure.pitch import NOTES
from bathyphon.core.measure.scales import SCALES, pulled, steps_away
from bathyphon.core.speed import shifter
from bathyphon.core.speed.speeding import NO_SHIFT
from bathyphon.core.speed.tracked import Shift

MOST = 8
LOWEST_HZ, HIGHEST_HZ = 20.0, 20000.0
"""Cuts at these take nothing away."""
LATEST_MS = 2000.0
GOES_ALONG = "goes along"
CONSTANT_POWER = 0
"""Of the laws of panning, the one at −3 dB."""
FLAT_Q = butterworth_qs(2)


def _name(index: int, id: str) -> str:
    return f"voices.{index}.{id}"


def _degree(settings: Settings, index: int) -> int:
    return int(settings.fixed(_name(index, "degree")))


def _note(settings: Settings, index: int) -> int | None:
    """The note that a voice keeps to, 0 for C; none where it goes along."""
    chosen = settings.choice(_name(index, "note"))
    return chosen - 1 if chosen else None


def _moved_by(settings: Settings, index: int) -> tuple[Curve, Curve]:
    """Semitones and cents; a voice that keeps to a note is not moved from it by semitones."""
    curves = settings.curves
    own = curves[_name(index, "semitones")] if _note(settings, index) is None else NO_SHIFT
    return own, curves[_name(index, "cents")]


def _tracked(settings: Settings, index: int) -> bool:
    return _degree(settings, index) != 0 or _note(settings, index) is not None


def _stepping(settings: Settings, index: int) -> Shift | None:
    """Semitones from the notes that are heard to a voice's own, or by steps of the scale."""
    degree, note = _degree(settings, index), _note(settings, index)
    if note is not None:
        return lambda notes, at: pulled(notes, note, "one note")
    if degree == 0:
        return None
    key, scale = settings.choice("key"), list(SCALES)[settings.choice("scale")]
    return lambda notes, at: steps_away(notes, degree, key, scale)


def _shifted(settings: Settings, index: int) -> bool:
    if _tracked(settings, index):
        return True
    return any(k.value != 0.0 for c in _moved_by(settings, index) for k in c.keyframes)


def lookahead(settings: Settings) -> int:
    """Samples that are waited for: as many as the lowest voice needs."""
    needed = [
        shifter.lookahead(
            lowest_ratio(*_moved_by(settings, i)),
            settings.sample_rate,
            _tracked(settings, i),
        )
        for i in range(settings.entries("voices"))
        if _shifted(settings, i)
    ]
    return max(needed, default=0)


def delay_of(settings: Settings, index: int) -> int:
    """Samples by which a voice comes after the direct sound."""
    frames = settings.fixed(_name(index, "delay_frames")) / settings.frame_rate
    seconds = frames + settings.fixed(_name(index, "delay_ms")) / 1000.0
    return round(seconds * settings.sample_rate)


def lasts(settings: Settings) -> int:
    """Samples until the latest voice has ended."""
    voices = range(settings.entries("voices"))
    return max((delay_of(settings, i) for i in voices), default=0)


class Voice:
    """One voice: shifted, delayed, cut and placed."""

    def __init__(self, settings: Settings, index: int, arriving: shifter.Arriving) -> None:
        self._settings = settings
        self._index = index
        self._arriving = arriving
        self.delay = delay_of(settings, index)
        self._shifter: shifter.Shifter | None = None
        if _shifted(settings, index):
            speeding = shift_by(settings, *_moved_by(settings, index), late=self.delay)
            self._shifter = shifter.Shifter(
                arriving, speeding, settings.sample_rate, _stepping(settings, index)
            )
        self._memory = memory_for(2)

    def process(self, at: int, n: int) -> Floats:
        """Its samples from ``at`` on, shape (2, n)."""
        s, index = self._settings, self._index
        start = at - self.delay
        y = np.array((self._shifter or self._arriving).read(start, start + n))
        if start < 0:
            # What was sung before the span has no voices.
            y[:, : min(n, -start)] = 0.0
        rate = float(s.sample_rate)
        low, high = (s.values(_name(index, id), at, n) for id in ("low_cut_hz", "high_cut_hz"))
        sections = []
        if s.moves(_name(index, "low_cut_hz")) or low[0] > LOWEST_HZ:
            sections.append(high_pass(low, FLAT_Q, rate))
        if s.moves(_name(index, "high_cut_hz")) or high[0] < HIGHEST_HZ:
            sections.append(low_pass(high, FLAT_Q, rate))
        if sections:
            y = through(stacked(sections), y, at, self._memory)
        gain = gain_of_db(s.values(_name(index, "gain_db"), at, n))
        return y * gain * law_gains(s.values(_name(index, "pan"), at, n), CONSTANT_POWER)

    def begin_at(self, at: int) -> None:
        """Say that it is first heard at a sample of the output."""
        if self._shifter:
            self._shifter.begin_at(at - self.delay)

    def needs(self, at: int) -> int:
        """First sample of the input that it may still need."""
        start = at - self.delay
        return self._shifter.needs(start) if self._shifter else start

    def state(self, at: int) -> State:
        """What its output from a sample on depends on, beside the input."""
        own = self._shifter.state(at - self.delay) if self._shifter else ()
        return (self._memory.copy(), *own)

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._memory = state[0].copy()
        if self._shifter:
            self._shifter.restore(state[1:])


class Harmony(Processor):
    """All voices and the direct sound."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._late = lookahead(settings)
        self._waiting = np.zeros((2, self._late))
        self._arriving = shifter.Arriving()
        count = settings.entries("voices")
        self._voices = [Voice(settings, i, self._arriving) for i in range(count)]
        self._at: int | None = None

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Add the voices to one block."""
        n = x.shape[1]
        if self._at is None:
            for voice in self._voices:
                voice.begin_at(at)
        self._arriving.take(x, at + self._late)
        self._at = at + n
        direct, self._waiting = delayed(self._waiting, x)
        out = direct * gain_of_db(self._settings.values("dry_db", at, n))
        first = max(0, -at)
        if first < n:
            for voice in self._voices:
                out[:, first:] += voice.process(at + first, n - first)
            self._forget()
        return out

    def _forget(self) -> int:
        at = self._at or 0
        first = min((v.needs(at) for v in self._voices), default=at)
        self._arriving.forget_before(first)
        return first

    def state(self) -> State:
        """Input that is still needed, and where each voice goes on."""
        at = self._at or 0
        states = [voice.state(at) for voice in self._voices]
        sizes = np.array([at, *(len(state) for state in states)], np.int64)
        held = self._arriving.state(self._forget())
        return (sizes, self._waiting.copy(), *held, *(part for s in states for part in s))

    def restore(self, state: State) -> None:
        """Continue from a state."""
        sizes, waiting, head, held, *rest = state
        self._at = int(sizes[0])
        self._waiting = waiting.copy()
        self._arriving.restore((head, held))
        for voice, size in zip(self._voices, sizes[1:], strict=True):
            voice.restore(tuple(rest[:size]))
            rest = rest[size:]


VOICE = Group(
    id="voices",
    label="Voice",
    most=MOST,
    parameters=(
        Parameter(
            "semitones", "Semitones", "st", -24.0, 24.0, "linear", default=4.0,
            help="How far from the direct sound: 4 is a major third, 7 a fifth, 12 an octave.",
        ),
        Parameter(
            "gain_db", "Gain", "dB", -60.0, 12.0, "db", default=-6.0, help="How loud it is.",
        ),
        Parameter(
            "pan", "Pan", "", -100.0, 100.0, "linear", default=0.0,
            help="Where it stands: −100 left, 100 right.",
        ),
        Parameter(
            "degree", "Steps", "", -7.0, 7.0, "linear", default=0.0, movable=False, whole=True,
            help="Steps of the scale away from the note that is sung, beside the semitones; 2 is a "
            "third.",
        ),
        Parameter(
            "note", "Note", "", 0, 12, "linear", default=0, movable=False,
            choices=(GOES_ALONG, *NOTES),
            help="The voice keeps to the nearest note of that name, whatever is sung.",
        ),
        Parameter(
            "delay_frames", "Delay", "f", 0.0, 50.0, "linear", default=0.0, movable=False,
            help="Frames behind the direct sound; about one sounds like another singer.",
        ),
        Parameter(
            "delay_ms", "Delay besides", "ms", 0.0, LATEST_MS, "linear", default=0.0,
            movable=False, help="Milliseconds behind, beside the frames.",
        ),
        Parameter(
            "cents", "Cents", "ct", -100.0, 100.0, "linear", default=0.0,
            help="Hundredths of a semitone; a few make a double.",
        ),
        Parameter(
            "low_cut_hz", "Low cut", "Hz", LOWEST_HZ, 2000.0, "log", default=LOWEST_HZ,
            help="Below this it is taken away.",
        ),
        Parameter(
            "high_cut_hz", "High cut", "Hz", 500.0, HIGHEST_HZ, "log", default=HIGHEST_HZ,
            help="Above this it is taken away.",
        ),
    ),
)  # fmt: skip

EFFECT = Effect(
    id="harmony",
    label="Harmony",
    engages="blend",
    parameters=(
        Parameter(
            "dry_db", "Direct", "dB", -96.0, 12.0, "db", default=0.0,
            help="Level of the direct sound; −96 leaves the voices alone.",
        ),
        FORMANTS,
        MATERIAL,
        Parameter(
            "scale", "Scale", "", 0, len(SCALES) - 1, "linear", default=1, movable=False,
            choices=tuple(SCALES), help="What voices that go by steps take them in.",
        ),
        KEY,
    ),
    telling=("dry_db",),
    make=Harmony,
    lookback_s=LOOKBACK_S,
    lasts=lasts,
    lookahead=lookahead,
    group=VOICE,
    help="Voices beside the direct sound: doubles, thirds, choirs, creatures.",
)  # fmt: skip
