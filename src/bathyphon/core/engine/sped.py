"""Media at another speed, as the clips of a graph read them.

What a clip reads is a function of the medium and of its speed alone, so it is kept for the whole
process, whatever graph asks for it.
"""

from __future__ import annotations

import threading

import numpy as np
from cachetools import LRUCache, cached

from bathyphon.core.arrays import Floats
from bathyphon.core.engine.media import Media
from bathyphon.core.speed.change import SpeedChange
from bathyphon.core.speed.reading import Readable, sound_at
from bathyphon.core.speed.rough import Rough

MOST = 32
"""Sounds that are kept; each holds some MiB."""


class SpedSound:
    """A medium from some sample on, at another speed and pitch.

    Parameters
    ----------
    medium : str
        Its id.
    digest : str
        Of its content.
    source_start : int
        Sample of the medium at which the stream begins.
    change : SpeedChange
    sample_rate : int
    rough : bool
        Whether it is to be had at once, from anywhere on, rather than exact.
    """

    def __init__(
        self,
        medium: str,
        digest: str,
        source_start: int,
        change: SpeedChange,
        sample_rate: int,
        rough: bool = False,
    ) -> None:
        self._lock = threading.Lock()
        self._media: Media | None = None
        self._medium = medium
        self._start = source_start
        made = Rough if rough else sound_at
        name = (medium, digest, source_start)
        self._sounding: Readable = made(change, self._read, sample_rate, name=name)

    def read(self, media: Media, start: int, stop: int) -> Floats:
        """Samples ``start … stop − 1`` of the stream, shape (2, stop − start)."""
        with self._lock:
            # Whoever asks reads from what is there for them now.
            self._media = media
            try:
                return np.broadcast_to(self._sounding.read(start, stop), (2, stop - start))
            finally:
                self._media = None

    def _read(self, start: int, stop: int) -> Floats:
        assert self._media is not None
        sound = self._media.read(self._medium, self._start + start, self._start + stop)
        return np.asarray(sound, np.float64)


@cached(
    LRUCache(MOST),
    key=lambda medium, digest, start, change, rate: (medium, digest, start, change, rate),
    lock=threading.Lock(),
)
def sped_sound(
    medium: str, digest: str, source_start: int, change: SpeedChange, sample_rate: int
) -> SpedSound:
    """A medium at another speed; the same object for the same content and speed."""
    return SpedSound(medium, digest, source_start, change, sample_rate)
