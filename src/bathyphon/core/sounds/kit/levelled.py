"""Sounds at one loudness, whatever their settings: what differs is what they are, not how loud."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.arrays import Floats
from bathyphon.core.measure.loudness import LoudnessMeter, lufs, sliding
from bathyphon.core.sounds.kit.model import Model
from bathyphon.core.sounds.kit.rate import RATE
from bathyphon.core.sounds.kit.stretch import Stretch
from bathyphon.core.sounds.kit.table import LOUDNESS

HIGHEST = 0.84
"""Largest sample that is let through, −1.5 dB."""
CHUNK = 5 * RATE
PROBE = 4 * CHUNK
FADE_OUT_S = 0.02

Sound = NDArray[np.float32]


def blocks(model: Model, settings: dict[str, float], seed: int, samples: int) -> Iterator[Sound]:
    """A sound from its beginning, float32 of shape (2, n), on a grid of its own.

    A bed's samples are the same however long it is asked for; a hit fades within its end.
    """
    name = f"{model.id}/{seed}"
    if model.kind == "hit":
        whole = model.sound(settings, Stretch(name, 0, samples))
        fade = min(samples, round(FADE_OUT_S * RATE))
        whole[:, samples - fade :] *= np.cos(np.linspace(0, np.pi / 2, fade)) ** 2
        yield _held(whole * gain(whole)).astype(np.float32)
        return
    probe = [model.sound(settings, Stretch(name, a, a + CHUNK)) for a in range(0, PROBE, CHUNK)]
    level = gain(np.concatenate(probe, axis=1))
    for start in range(0, samples, CHUNK):
        known = start // CHUNK
        chunk = (
            probe[known]
            if known < len(probe)
            else model.sound(settings, Stretch(name, start, start + CHUNK))
        )
        yield _held(chunk[:, : samples - start] * level).astype(np.float32)


def gain(sound: Floats) -> float:
    """What brings a sound to the loudness of all; a short one by its loudest moment."""
    meter = LoudnessMeter(RATE)
    meter.add(np.pad(sound, ((0, 0), (0, max(0, RATE // 2 - sound.shape[1])))))
    found = meter.integrated()
    if found is None:
        power = sliding(meter.energies(), 4)
        found = float(lufs(power).max()) if power.size else None
    if found is None or found < -120:
        return 1.0
    return float(10 ** ((LOUDNESS - found) / 20))


def _held(sound: Floats) -> Floats:
    """Peaks bent over smoothly above half of full scale; what lies below stays as it is."""
    knee = HIGHEST / 2
    size = np.abs(sound)
    if size.max(initial=0.0) <= knee:
        return sound
    over = (size - knee) / (HIGHEST - knee)
    bent = knee + (HIGHEST - knee) * np.tanh(over)
    return np.asarray(np.where(size > knee, np.sign(sound) * bent, sound))
