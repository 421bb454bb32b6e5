"""Space: the sound in a place whose impulse response is known, by convolution."""

from __future__ import annotations

from functools import lru_cache
from threading import Lock

import numpy as np
from cachetools import LRUCache, cached

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.convolution import SHORT, Convolver, Partitioned, partitioned
from bathyphon.core.dsp.delays import delayed
from bathyphon.core.dsp.mixing import mixed
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.effects.space.evened import evened
from bathyphon.core.effects.space.reach import predelay_of
from bathyphon.core.effects.space.spaces import prepared, response
from bathyphon.core.effects.space.table import SPACES


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


MOST_KEPT = 6


def _partitions_key(settings: Settings) -> tuple[object, ...]:
    given = settings.sounds.get("file")
    return (
        settings.choice("response"),
        settings.choice("loudness"),
        settings.fixed("stretch"),
        predelay_of(settings),
        settings.sample_rate,
        given[0] if given else None,
    )


@cached(LRUCache(MOST_KEPT), key=_partitions_key, lock=Lock())
def _partitions_of(settings: Settings) -> Partitioned:
    """Spectra of the response with its pre-delay; the last few are kept."""
    late = np.zeros((2, 2, predelay_of(settings)))
    found = response_of(settings)
    if settings.choice("loudness"):
        found = evened(found, settings.sample_rate)
    return partitioned(np.concatenate([late, found], axis=2))


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


make = Space
