"""Reels to cook with, and what recipes sound like on them."""

from __future__ import annotations

from typing import Any

import numpy as np

from bathyphon.core.edits import apply_edit, parse_command
from bathyphon.core.edits.here import Place
from bathyphon.core.engine.alone import clip_alone
from bathyphon.core.engine.graph import build_graph
from bathyphon.core.engine.render import render
from bathyphon.core.recipes import RECIPES, Recipe
from bathyphon.core.recipes.kit.scene import Scene
from bathyphon.core.reel.parse import read_reel
from bathyphon.core.sounds.made import Made, make, sound_of
from bathyphon.core.timing.clock import Clock, parse_rate

RATE = 48000
RATES = ["24/1", "25/1", "30000/1001", "50/1"]


def noise(seconds: float = 20.0, seed: int = 1, level: float = 0.1) -> np.ndarray:
    x = np.random.default_rng(seed).standard_normal((1, round(seconds * RATE)))
    return (level * np.repeat(x, 2, axis=0)).astype(np.float32)


def bursts(seconds: float = 20.0, every: float = 4.0, first: float = 0.5) -> np.ndarray:
    """Short bursts of noise, and silence between them: what answers is heard by itself."""
    x = np.zeros((2, round(seconds * RATE)), np.float32)
    burst = noise(0.08, 3, 0.3)
    for at in np.arange(first, seconds - 0.2, every):
        a = round(at * RATE)
        x[:, a : a + burst.shape[1]] = burst
    return x


class Media:
    """Sounds by the ids of their media, and those that are computed."""

    def __init__(self, **sounds: np.ndarray) -> None:
        self.sounds = dict(sounds)
        self.computed: dict[str, Made] = {}

    def digest(self, media: str) -> str:
        return f"{media}-{id(self)}"

    def length(self, media: str) -> int:
        return self.sounds[media].shape[1]

    def read(self, media: str, start: int, stop: int) -> np.ndarray:
        x = self.sounds[media]
        out = np.zeros((2, stop - start), np.float32)
        a, b = max(0, start), min(stop, x.shape[1])
        if a < b:
            out[:, a - start : b - start] = x[:, a:b]
        return out

    def response(self, media: str, most: int) -> np.ndarray:
        return self.read(media, 0, most)

    def made(
        self, model: str, settings: dict[str, float], seconds: float, name: str, seed: int
    ) -> Any:
        """A computed sound as a medium, as the server has it."""
        made = make(model, settings, seed, seconds + 8, name)
        # The same sound is the same medium.
        for id, known in self.computed.items():
            if known == made:
                return id, f"{name}.sound", self.sounds[id].shape[1]
        sound = np.concatenate(list(sound_of(made)), axis=1)
        id = f"made{len(self.sounds)}"
        self.sounds[id] = sound
        self.computed[id] = made
        return id, f"{name}.sound", sound.shape[1]


class Bench:
    """A reel at a frame rate, with shots of four seconds, a voice and music."""

    def __init__(self, rate: str = "25/1", seconds: float = 20.0, **sounds: np.ndarray) -> None:
        self.clock = Clock(parse_rate(rate), RATE)
        frames = round(seconds * float(self.clock.frame_rate))
        cuts = list(range(frames // 5, frames, frames // 5))
        self.media = Media(**(sounds or {"voice": noise(seconds)}))
        length = self.clock.sample_of_frame(frames)
        tracks = [
            {
                "id": f"t-{name}", "name": name.capitalize(), "treatments": [],
                "clips": [{"id": f"c-{name}", "media": name, "name": name, "start": 0,
                           "length": min(length, x.shape[1]), "source_start": 0}],
            }
            for name, x in self.media.sounds.items()
        ]  # fmt: skip
        self.document = {
            "format": "bathyphon-reel", "version": 1, "frame_rate": rate, "sample_rate": RATE,
            "media": [{"id": name, "path": f"{name}.wav"} for name in self.media.sounds]
            + [{"id": "film", "path": "film.mp4"}],
            "picture": {"clips": [{"media": "film", "start": 0, "length": length}], "cuts": cuts},
            "tracks": tracks,
        }  # fmt: skip
        self.cuts = [self.clock.sample_of_frame(c) for c in cuts]
        self.beats: dict[str, list[int]] = {}
        self._ids = 0

    def edit(self, **command: Any) -> None:
        """An edit by hand."""
        self.document = apply_edit(
            self.document, read_reel(self.document), parse_command(command)
        ).document

    def plan(self, recipe: str | Recipe, place: Place, /, **answers: Any) -> Any:
        """What a recipe would make here."""
        known = RECIPES[recipe] if isinstance(recipe, str) else recipe
        scene = Scene(
            self.document,
            read_reel(self.document),
            place,
            self.media.made,
            self._new_id,
            lambda clip: clip_alone(self.document, clip, self.media, 20.0),
            lambda clip: self.beats.get(clip, []),
        )
        return known.plan(scene, answers)

    def cook(self, recipe: str | Recipe, place: Place | None = None, /, **answers: Any) -> Any:
        """Carry a recipe out."""
        plan = self.plan(recipe, place or Place(), **answers)
        for command in plan.commands:
            self.edit(**command)
        return plan

    def take_back(self) -> None:
        """Take the last recipe back, by what it has left for that."""
        made = self.document["made"][-1]
        for command in made["back"]:
            self.edit(**command)
        self.edit(kind="forget_recipe", id=made["id"])

    def heard(self, document: Any = None) -> np.ndarray:
        """The whole reel, shape (2, n)."""
        reel = read_reel(document or self.document)
        parts = [part.mix for part in render(build_graph(reel, self.media), self.media)]
        return np.concatenate(parts, axis=1)

    def _new_id(self, letter: str) -> str:
        self._ids += 1
        return f"{letter}{self._ids}"


def level(x: np.ndarray, start: float, stop: float) -> float:
    """RMS in decibels of samples from a second to another."""
    part = x[:, round(start * RATE) : round(stop * RATE)]
    return float(10 * np.log10(np.mean(part**2) + 1e-20))


def band(x: np.ndarray, low: float, high: float) -> float:
    """Power in a band, in decibels."""
    spectrum = np.abs(np.fft.rfft(x.mean(axis=0) * np.hanning(x.shape[1]))) ** 2
    f = np.fft.rfftfreq(x.shape[1], 1 / RATE)
    return float(10 * np.log10(spectrum[(f >= low) & (f < high)].mean() / x.shape[1] + 1e-20))
