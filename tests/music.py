"""Music whose beats are known, and ambience that has none; all by synthesis."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

RATE = 48000


@dataclass(frozen=True)
class Song:
    """A sound with its true beats in samples, and the tempo of each part."""

    sound: NDArray[np.float32]
    beats: NDArray[np.float64]
    tempos: tuple[float, ...]


def _hit(rng: np.random.Generator, kind: str) -> NDArray[np.float64]:
    t = np.arange(round(0.25 * RATE)) / RATE
    noise = rng.standard_normal(t.size)
    if kind == "kick":
        return np.sin(2 * np.pi * (50 * t + 3.0 * (1 - np.exp(-t * 40)))) * np.exp(-t * 14)
    if kind == "snare":
        return (0.5 * noise + 0.5 * np.sin(2 * np.pi * 190 * t)) * np.exp(-t * 22)
    return np.diff(noise, prepend=0) * 0.35 * np.exp(-t * 70)


def song(
    rng: np.random.Generator,
    tempos: tuple[float, ...],
    seconds: float = 90.0,
    swing: float = 0.5,
    gap: tuple[float, float] | None = None,
    begins: float = 0.4,
) -> Song:
    """Drums, bass and chords at one tempo or several in turn.

    ``swing`` is where the off-beat lies between two beats (0.5: straight, 0.66: full); in ``gap``
    (from, to in seconds) the drums rest.
    """
    n = round(seconds * RATE)
    out = np.zeros((2, n + RATE))
    beats = [begins * RATE]
    part = n / len(tempos)
    while True:
        tempo = tempos[min(len(tempos) - 1, int(beats[-1] / part))]
        following = beats[-1] + 60 * RATE / tempo
        if following >= n:
            break
        beats.append(following)
    root = rng.integers(36, 46)

    def put(at: float, what: NDArray[np.float64], level: float, pan: float = 0.0) -> None:
        start = round(at)
        for side, gain in enumerate((1 - pan, 1 + pan)):
            out[side, start : start + what.size] += level * gain * what[: out.shape[1] - start]

    for i, at in enumerate(beats):
        length = beats[i + 1] - at if i + 1 < len(beats) else 60 * RATE / tempos[-1]
        resting = gap is not None and gap[0] * RATE <= at < gap[1] * RATE
        if not resting:
            put(at, _hit(rng, "kick" if i % 2 == 0 else "snare"), rng.uniform(0.4, 0.5))
            put(at, _hit(rng, "hat"), 0.15, 0.3)
            put(at + swing * length, _hit(rng, "hat"), rng.uniform(0.1, 0.18), 0.3)
        if i % 4 == 0:
            t = np.arange(min(round(4 * length), out.shape[1] - round(at))) / RATE
            fade = np.minimum(1, t / 0.03) * np.minimum(1, (t[-1] - t) / 0.05 + 1e-3)
            for step in (0, 3, 7, 12):
                hz = 440 * 2 ** ((root + 24 + step + [0, 5, -4, 3][i // 4 % 4] - 69) / 12)
                put(at, np.sin(2 * np.pi * hz * t) * fade, 0.03, rng.uniform(-0.5, 0.5))
        t = np.arange(round(min(length, 0.4 * RATE))) / RATE
        hz = 440 * 2 ** ((root - 69 + [0, 5, -4, 3][i // 4 % 4]) / 12)
        if not resting:
            put(at, np.sin(2 * np.pi * hz * t) * np.exp(-t * 5) * np.minimum(1, t / 0.004), 0.12)
    out += 0.002 * rng.standard_normal(out.shape)
    return Song(out[:, :n].astype(np.float32), np.array(beats), tempos)


def ambience(rng: np.random.Generator, seconds: float = 60.0) -> NDArray[np.float32]:
    """Water: a bed whose level wanders, and drops at random moments."""
    n = round(seconds * RATE)
    bed = np.cumsum(rng.standard_normal((2, n)), axis=1)
    bed -= np.linspace(0, 1, n) * bed[:, -1:]
    bed = np.diff(bed, axis=1, prepend=0) * 0.05
    wander = np.interp(np.arange(n), np.linspace(0, n, 40), rng.uniform(0.3, 1.0, 40))
    out = bed * wander
    for at in rng.uniform(0, seconds - 0.5, rng.integers(20, 150)):
        t = np.arange(round(0.12 * RATE)) / RATE
        hz = rng.uniform(600, 2500)
        drop = np.sin(2 * np.pi * (hz * t + 900 * t**2)) * np.exp(-t * rng.uniform(30, 90))
        start = round(at * RATE)
        out[:, start : start + t.size] += rng.uniform(0.05, 0.4) * drop
    return out.astype(np.float32)
