"""Space: the sound in a place whose impulse response is known, by convolution."""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from bathyphon.core.curves import Floats
from bathyphon.core.effects.base import (
    TAIL_LIMIT_SECONDS,
    Effect,
    Parameter,
    Processor,
    Reference,
    Settings,
    State,
)
from bathyphon.core.effects.convolution import SHORT, Convolver, Partitioned, partitioned
from bathyphon.core.effects.delays import delayed
from bathyphon.core.effects.mixing import mixed
from bathyphon.core.effects.rooms.spaces import SPACES, prepared, response, seconds

LONGEST_PREDELAY_MS = 500.0
LONGEST_SECONDS = 30


@lru_cache(maxsize=8)
def _stretched(name: str, percent: float, sample_rate: int) -> Floats:
    return _resampled(response(name, sample_rate), percent)


def _resampled(found: Floats, percent: float) -> Floats:
    if percent == 100.0:
        return found
    count = max(1, round(found.shape[2] * percent / 100.0))
    # SciPy's signal package takes half a second to import: not before it is needed.
    from scipy.signal import resample

    # Beyond its end it is silence: without it, the resampler would wrap around.
    padded = np.concatenate([found, np.zeros((2, 2, found.shape[2] // 8 + 64))], axis=2)
    whole = max(1, round(padded.shape[2] * percent / 100.0))
    longer: Floats = np.asarray(resample(padded, whole, axis=2))[:, :, :count]
    return prepared(longer)


def response_of(settings: Settings) -> Floats:
    """The response that is used, shape (2, 2, n), without its pre-delay."""
    percent = settings.fixed("stretch")
    given = settings.sounds.get("file")
    if given is None:
        name = SPACES[settings.choice("response")]
        return _stretched(name, percent, settings.sample_rate)
    samples = given[1].astype(np.float64)
    found = np.zeros((2, 2, max(1, samples.shape[1])))
    if not samples.any():
        return found
    if len(samples) == 4:
        found[:] = samples.reshape(2, 2, -1)
    else:
        found[0, 0], found[1, 1] = samples
    return _resampled(prepared(found), percent)


def _predelay(settings: Settings) -> int:
    value = settings.fixed("predelay_ms")
    return round(value * settings.sample_rate / 1000.0)


_partitions: dict[tuple[object, ...], Partitioned] = {}
MOST_KEPT = 6


def _partitions_of(settings: Settings) -> Partitioned:
    """Spectra of the response with its pre-delay; the last few are kept."""
    given = settings.sounds.get("file")
    key = (
        settings.choice("response"),
        settings.fixed("stretch"),
        _predelay(settings),
        settings.sample_rate,
        given[0] if given else None,
    )
    found = _partitions.get(key)
    if found is None:
        late = np.zeros((2, 2, _predelay(settings)))
        found = partitioned(np.concatenate([late, response_of(settings)], axis=2))
        _partitions[key] = found
        while len(_partitions) > MOST_KEPT:
            _partitions.pop(next(iter(_partitions)), None)
    return found


class Space(Processor):
    """Direct sound and the place's answer."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._convolver = Convolver(_partitions_of(settings))
        self._direct = np.zeros((2, SHORT))

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Put one block into the place."""
        s = self._settings
        n = x.shape[1]
        wet = self._convolver.process(x, at + SHORT)
        direct, self._direct = delayed(self._direct, x)
        return mixed(direct, wet, s.values("mix", at, n), s.values("dry_db", at, n))

    def state(self) -> State:
        """Spectra of what was heard, and what waits."""
        return (self._direct.copy(), *self._convolver.state())

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._direct = state[0].copy()
        self._convolver.restore(state[1:])


def tail(settings: Settings) -> int:
    """Samples of the response and its pre-delay."""
    if settings.curves["mix"].largest <= 0.0:
        return 0
    given = settings.sounds.get("file")
    rate = settings.sample_rate
    longest = seconds(SPACES[settings.choice("response")])
    if given is not None:
        longest = given[1].shape[1] / rate
    longest *= settings.fixed("stretch") / 100.0
    closing = 0.02
    return _predelay(settings) + math.ceil(min(longest + closing, TAIL_LIMIT_SECONDS) * rate)


EFFECT = Effect(
    id="space",
    label="Space",
    engages="send",
    parameters=(
        Parameter(
            "response", "Place", "", 0.0, len(SPACES) - 1.0, "linear",
            default=float(SPACES.index("cavern")), movable=False, choices=SPACES,
            help="Rooms computed from their walls, and things that ring.",
        ),
        Parameter(
            "mix", "Mix", "%", 0.0, 100.0, "linear", default=35.0,
            help="Up to 50 % the direct sound stays whole; at 100 % only the place is left.",
        ),
        Parameter(
            "stretch", "Stretch", "%", 25.0, 400.0, "log", default=100.0, movable=False,
            help="Longer is larger and deeper.",
        ),
        Parameter(
            "predelay_ms", "Pre-delay", "ms", 0.0, LONGEST_PREDELAY_MS, "linear", default=0.0,
            movable=False, help="Time before the place answers.",
        ),
        Parameter(
            "dry_db", "Direct", "dB", -96.0, 12.0, "db", default=0.0,
            help="Level of the direct sound, apart from the place.",
        ),
    ),
    telling=("mix", "stretch"),
    make=Space,
    tail=tail,
    lookahead=lambda settings: SHORT,
    reference=Reference(
        "file", "Own response", "media",
        "A recorded impulse response, instead of the place; four channels are its four paths.",
        longest_s=LONGEST_SECONDS,
    ),
    help="A known place or thing: a cavern, a tank, a plate, a pipe.",
)  # fmt: skip
