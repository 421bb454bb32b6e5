"""Compiles every kernel by treating a moment of sound; the results stay on disk."""

from __future__ import annotations

from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context

import numpy as np

from bathyphon.core.effects import EFFECTS
from bathyphon.core.engine.graph import build_graph
from bathyphon.core.engine.render import render
from bathyphon.core.measure.tally import tally
from bathyphon.core.reel.model import FORMAT, VERSION, Reel
from bathyphon.core.reel.parse import read_reel
from bathyphon.core.sounds import MODELS
from bathyphon.core.sounds.kit.stretch import Stretch
from bathyphon.core.speed.steady import Change, changed
from bathyphon.formats.conform import Sound
from bathyphon.formats.wav import dither
from bathyphon.kernels import forget_other_kernels


class _Noise:
    """A medium that needs no file."""

    def digest(self, media: str) -> str:
        """Any name does."""
        return media

    def length(self, media: str) -> int:
        """A tenth of a second."""
        return 4800

    def read(self, media: str, start: int, stop: int) -> Sound:
        """A little noise."""
        return np.random.default_rng(1).standard_normal((2, stop - start)).astype(np.float32)

    def response(self, media: str, most: int) -> Sound:
        """The same noise."""
        return self.read(media, 0, min(most, self.length(media)))


def _reel(*kinds: str) -> Reel:
    """A reel of one clip whose middle is treated, with values that move."""
    moving = {"keyframes": [{"at": 0, "value": 0, "ease": "hold"}, {"at": 2400, "value": 100}]}
    chain = [{"id": kind, "kind": kind, "params": dict(EFFECTS[kind].example)} for kind in kinds]
    span = {"id": "f", "start": 0, "length": 4800, "effects": chain, "strength": moving}
    track = {
        "id": "t",
        "gain_db": {"keyframes": [{"at": 0, "value": -96}, {"at": 2400, "value": 0}]},
        "pan": {"keyframes": [{"at": 0, "value": -10}, {"at": 2400, "value": 20}]},
        "clips": [{"id": "c", "media": "m", "start": 0, "length": 4800}],
        "treatments": [span],
    }
    return read_reel(
        {
            "format": FORMAT,
            "version": VERSION,
            "frame_rate": "25/1",
            "sample_rate": 48000,
            "media": [{"id": "m", "path": "m"}],
            "tracks": [track],
        }
    )


def _rendered(reel: Reel) -> None:
    media = _Noise()
    for _ in render(build_graph(reel, media), media):
        pass


def _alone(kind: str) -> None:
    _rendered(_reel(kind))


def _sound(model: str) -> None:
    """A moment of a computed sound."""
    known = MODELS[model]
    settings = known.settings({})
    known.sound(settings, Stretch(model, 0, 4800))


def warm_up() -> None:
    """Run every effect over 100 ms: all in a chain, with what runs only when asked; each alone."""
    forget_other_kernels()
    # Each for itself, on all processors; then all together, which hardly needs more.
    with ProcessPoolExecutor(mp_context=get_context("spawn")) as pool:
        list(pool.map(_alone, EFFECTS))
    _rendered(_reel(*EFFECTS))
    for model in ("rain", "door"):
        _sound(model)
    dither(0, 8)
    tally(np.random.default_rng(1).standard_normal((2, 4800)), 48000)
    # Held and followed; a shift needs both.
    moment = np.random.default_rng(1).standard_normal((2, 4800))
    for material in ("music", "voice"):
        changed(moment, Change(110.0, "hold", 1.0, "hold", material), 48000)


if __name__ == "__main__":
    warm_up()
