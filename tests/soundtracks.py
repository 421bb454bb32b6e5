"""Small films with speech, music and a bed, drawn at random; clean until they are spoilt."""

from __future__ import annotations

from copy import deepcopy
from functools import cache
from pathlib import Path
from typing import Any

import numpy as np
import soundfile
from numpy.typing import NDArray
from scipy.signal import butter, lfilter, sosfilt

import music
from bathyphon.core.edits import apply_edits, parse_command
from bathyphon.core.listen.judge import Judged, judge, survey_of
from bathyphon.core.listen.survey import Survey
from bathyphon.core.reel.model import Document
from bathyphon.core.reel.parse import read_reel
from reels import Memory

RATE = 48000
FRAME = RATE // 25
SECONDS = 14
Sound = NDArray[np.float64]
_DEMO = Path(__file__).parents[1] / "demo" / "ninth_sump"


@cache
def lines() -> list[Sound]:
    """Spoken lines, one channel each."""
    paths = sorted(_DEMO.glob("l[0-9]*.opus"))
    return [soundfile.read(p, always_2d=True)[0].mean(axis=1) for p in paths]


def faded(x: Sound, seconds: float = 0.02) -> Sound:
    """The same with soft ends."""
    n = min(x.size // 2, round(seconds * RATE))
    ramp = np.sin(0.5 * np.pi * np.arange(n) / n) ** 2
    y = x.copy()
    y[:n] *= ramp
    y[-n:] *= ramp[::-1]
    return y


def wide(x: Sound, rng: np.random.Generator, share: float = 0.3) -> Sound:
    """Two sides with most in common."""
    other = lfilter([1.0], [1.0, -0.9], rng.standard_normal(x.size))
    other *= share * np.std(x) / (np.std(other) + 1e-12)
    return np.stack([x + other, x - other])


def speech(rng: np.random.Generator, seconds: float) -> Sound:
    """Lines one after another with pauses, as they were recorded."""
    parts, length = [], 0
    for k in rng.permutation(len(lines())):
        pause = np.zeros(round(RATE * rng.uniform(0.2, 0.7)))
        parts += [lines()[k], pause]
        length += lines()[k].size + pause.size
        if length >= seconds * RATE:
            break
    x = np.concatenate(parts)[: round(seconds * RATE)]
    x = np.pad(x, (0, round(seconds * RATE) - x.size))
    return faded(x) * 0.25 / np.abs(x).max()


def bed(rng: np.random.Generator, seconds: float) -> Sound:
    """Wind, rain or a room, both sides a little different."""
    n = round(seconds * RATE)
    low, high = rng.uniform(80, 400), rng.uniform(1500, 9000)
    sections = butter(1, [low, high], "bandpass", fs=RATE, output="sos")
    x = sosfilt(sections, rng.standard_normal((2, n)) + rng.standard_normal(n))
    gusts = np.interp(
        np.arange(n), np.arange(0, n + RATE, RATE), rng.uniform(0.7, 1.2, n // RATE + 1)
    )
    return np.stack([faded(side) for side in 0.012 * x * gusts / np.std(x)])


def score(rng: np.random.Generator, seconds: float) -> Sound:
    """Music at one tempo."""
    x = music.song(rng, (float(rng.uniform(75, 150)),), seconds).sound.astype(np.float64)
    mono = x if x.ndim == 1 else x.mean(axis=0)
    mono = faded(mono[: round(seconds * RATE)], 0.05)
    return wide(0.06 * mono / np.abs(mono).max(), rng, 0.1)


class Film:
    """A film under way: its document and the sounds that it plays."""

    def __init__(self, document: Document, sounds: dict[str, Sound]) -> None:
        self.document = document
        self.sounds = sounds

    def media(self) -> Memory:
        """The sounds as an engine reads them."""
        return Memory(**{k: v.astype(np.float32) for k, v in self.sounds.items()})

    def survey(self) -> Survey:
        """The film as checks see it."""
        return survey_of(self.document, read_reel(self.document), self.media())

    def judged(self) -> Judged:
        """What is found in it."""
        return judge(self.survey())

    def after(self, *commands: dict[str, Any]) -> Film:
        """The film after an edit."""
        edit = apply_edits(
            self.document, read_reel(self.document), [parse_command(c) for c in commands]
        )
        return Film(edit.document, self.sounds)

    def track(self, id: str) -> dict[str, Any]:
        """A track of the document."""
        return next(t for t in self.document["tracks"] if t["id"] == id)

    def copy(self) -> Film:
        """One that may be spoilt."""
        return Film(deepcopy(self.document), {k: v.copy() for k, v in self.sounds.items()})


def film(seed: int, seconds: int = SECONDS) -> Film:
    """A clean film: cuts, lines, music under them, a bed throughout, a treatment or two."""
    rng = np.random.default_rng(seed)
    n = seconds * RATE
    voice = speech(rng, seconds)
    sounds = {
        "voice": np.stack([voice, voice]),
        "music": score(rng, seconds),
        "bed": bed(rng, seconds),
        "picture": np.zeros((2, n)),
    }
    cuts = sorted({int(c) for c in rng.integers(30, seconds * 25 - 30, rng.integers(2, 5))})
    half = int(rng.integers(4, seconds - 4)) * RATE
    third = {"gain_db": 0.0, "pan": 0.0, "treatments": []}
    document: Document = {
        "format": "bathyphon-reel",
        "version": 1,
        "name": f"Film {seed}",
        "frame_rate": "25/1",
        "sample_rate": RATE,
        "media": [{"id": id, "path": f"{id}.wav"} for id in sounds],
        "picture": {
            "clips": [{"media": "picture", "start": 0, "length": n, "source_start": 0}],
            "cuts": cuts,
        },
        "tracks": [
            {
                "id": "voice", "name": "Voice", **third,
                "clips": [
                    {"id": "v1", "media": "voice", "start": 0, "length": half},
                    {"id": "v2", "media": "voice", "start": half, "length": n - half,
                     "source_start": half},
                ],
                "treatments": [
                    {"id": "room", "name": "Room", "start": 2 * RATE, "length": 3 * RATE,
                     "ramp_in": {"length": 5 * FRAME}, "ramp_out": {"length": 5 * FRAME},
                     "effects": [{"id": "r", "kind": "reverb",
                                  "params": {"mix": 12, "decay_s": float(rng.uniform(0.5, 2))}}]},
                ],
            },
            {
                "id": "music", "name": "Music", **third, "gain_db": -4.0,
                "clips": [{"id": "m1", "media": "music", "start": 0, "length": n}],
            },
            {
                "id": "bed", "name": "Bed", **third,
                "clips": [{"id": "b1", "media": "bed", "start": 0, "length": n}],
                "treatments": [
                    {"id": "under", "name": "Under", "start": 6 * RATE, "length": 4 * RATE,
                     "ramp_in": {"length": 3 * FRAME}, "ramp_out": {"length": 3 * FRAME},
                     "effects": [{"id": "u", "kind": "muffle",
                                  "params": {"high_cut_hz": float(rng.uniform(500, 2000))}}]},
                ],
            },
        ],
        "mix": {"gain_db": 0.0, "treatment": {"effects": []}},
    }  # fmt: skip
    return Film(document, sounds)
