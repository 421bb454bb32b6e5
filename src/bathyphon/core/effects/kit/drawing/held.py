"""Running an effect with its parameters held as they are at one moment."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.effects.kit.effect import Effect
from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.timing.curves import Curve


def held(settings: Settings, at: int) -> Settings:
    """The settings with every curve replaced by its value at a sample."""
    curves = {
        id: Curve.constant(float(settings.values(id, at, 1)[0]), curve.scale)
        for id, curve in settings.curves.items()
    }
    return replace(settings, curves=curves, length=None)


def value(settings: Settings, id: str) -> float:
    """A held parameter."""
    return settings.fixed(id)


def answer(effect: Effect, settings: Settings, x: Floats, side: Floats | None = None) -> Floats:
    """What comes out for a sound, aligned with it, same shape (2, n); ``side`` is listened to."""
    late = effect.lookahead(settings)
    both = np.concatenate([x, np.zeros((2, late))], axis=1)
    amount = 1.0
    if effect.strength:
        amount = value(settings, effect.strength) / 100.0
    depth = np.full(both.shape[1], amount)
    processor = effect.make(settings)
    if side is not None:
        processor.hear(np.concatenate([side, np.zeros((2, late))], axis=1))
    return processor.process(both, -late, depth)[:, late:]


def impulse(samples: int, level: float = 1.0, side: int | None = None) -> Floats:
    """One pulse on both sides or on one, shape (2, samples)."""
    x = np.zeros((2, samples))
    if side is None:
        x[:, 0] = level
    else:
        x[side, 0] = level
    return x
