"""Small reels and signals for tests."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.effects import EFFECTS
from bathyphon.core.effects.kit.drawing.held import answer
from bathyphon.core.engine.graph import build_graph
from bathyphon.core.engine.plan import effect_settings
from bathyphon.core.engine.render import render
from bathyphon.core.reel.model import Document, EffectPart
from bathyphon.core.reel.parse import read_reel

Sound = NDArray[np.float32]


class Memory:
    """Media held in memory, by id."""

    def __init__(self, **sounds: Sound) -> None:
        self._sounds = sounds

    def digest(self, media: str) -> str:
        return f"{media}-{hash(self._sounds[media].tobytes())}" if media in self._sounds else media

    def length(self, media: str) -> int:
        return self._sounds[media].shape[1]

    def read(self, media: str, start: int, stop: int) -> Sound:
        sound = self._sounds[media]
        out = np.zeros((2, stop - start), np.float32)
        a, b = max(0, start), min(stop, sound.shape[1])
        if a < b:
            out[:, a - start : b - start] = sound[:, a:b]
        return out

    def response(self, media: str, most: int) -> Sound:
        return self._sounds[media][:, :most]


def noise(samples: int, seed: int = 1, level: float = 0.1) -> Sound:
    """White noise, shape (2, samples)."""
    x = np.random.default_rng(seed).standard_normal((2, samples)) * level
    return x.astype(np.float32)


def document(
    length: int,
    *,
    rate: int = 48000,
    frame_rate: str = "25/1",
    treatments: list[Any] | None = None,
    clip: dict[str, Any] | None = None,
    **more: Any,
) -> Document:
    """A reel of one clip of medium ``m1`` on track ``t1``."""
    return {
        "format": "bathyphon-reel",
        "version": 1,
        "name": "Test",
        "frame_rate": frame_rate,
        "sample_rate": rate,
        "media": [{"id": "m1", "path": "m1.wav"}],
        "tracks": [
            {
                "id": "t1",
                "name": "Music",
                "clips": [{"id": "c1", "media": "m1", "start": 0, "length": length} | (clip or {})],
                "treatments": treatments or [],
            }
        ],
    } | more


def treatment(start: int, length: int, *effects: dict[str, Any], **more: Any) -> dict[str, Any]:
    """A span's treatment."""
    chain = [{"id": f"e{i}", **effect} for i, effect in enumerate(effects)]
    return {"id": "f1", "start": start, "length": length, "effects": chain} | more


def effect(kind: str, **params: Any) -> dict[str, Any]:
    """An effect of a chain."""
    return {"kind": kind, "params": params}


def keyframes(*points: tuple[Any, ...]) -> dict[str, Any]:
    """Keyframes from (at, value[, ease]) tuples."""
    names = ("at", "value", "ease")
    return {"keyframes": [dict(zip(names, p, strict=False)) for p in points]}


def rendered(doc: Document, media: Memory, treated: bool = True, **options: Any) -> Sound:
    """The whole render of a document, shape (2, n)."""
    graph = build_graph(read_reel(doc), media, treated)
    return np.concatenate([part.mix for part in render(graph, media, **options)], axis=1)


def same_bits(a: Sound, b: Sound) -> bool:
    """Whether two sounds are equal bit for bit."""
    return a.shape == b.shape and a.tobytes() == b.tobytes()


def treat(
    kind: str, x: NDArray[np.float64], rate: int = 48000, **params: Any
) -> NDArray[np.float64]:
    """What an effect alone makes of a sound, aligned with it; parameters as in a document."""
    effect = EFFECTS[kind]
    settings = effect_settings(EffectPart(id="e", kind=kind, params=params), rate)
    return answer(effect, settings, x)


def response_db(
    kind: str, hz: NDArray[np.float64], side: int = 0, rate: int = 48000, **params: Any
) -> NDArray[np.float64]:
    """Level of an effect's output at frequencies, from the response to a small pulse."""
    pulse = np.zeros((2, 1 << 16))
    # Not at the very beginning: filters of linear phase answer a little before it.
    pulse[:, 1000] = 1e-3
    # Zeros behind it, so that narrow bands are seen between the bins as well.
    spectrum = np.abs(np.fft.rfft(treat(kind, pulse, rate, **params)[side], 1 << 20)) * 1e3
    found = np.interp(hz, np.fft.rfftfreq(1 << 20, 1 / rate), spectrum)
    return 20 * np.log10(found + 1e-12)


def tone(hz: float, seconds: float = 1.0, level: float = 1.0, rate: int = 48000) -> Any:
    """A sine on both sides, float64 of shape (2, n)."""
    t = np.arange(round(seconds * rate)) / rate
    return np.stack([np.sin(2 * np.pi * hz * t)] * 2) * level
