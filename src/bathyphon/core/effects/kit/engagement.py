"""How a treatment's strength reaches an effect."""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.glides import glide_from
from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.effects.kit.table import Table
from bathyphon.core.timing.constants import lowest

SWEEP_IN = 0.02
"""Strength from which a sweep is wholly heard."""


def swept(table: Table, settings: Settings, id: str, at: int, depth: Floats) -> Floats:
    """A parameter's values on their way from neutral, as far as ``depth`` says."""
    target = settings.values(id, at, depth.size)
    parameter = table.parameter(id)
    if parameter is None or parameter.neutral is None:
        return target
    return glide_from(parameter.neutral, target, depth, parameter.scale)


def engaged_sweep(x: Floats, fx: Floats, depth: Floats) -> Floats:
    """Output of a ``sweep``: x + w·(f(x) − x) with w = smooth(min(1, depth / 0.02))."""
    if lowest(depth) >= SWEEP_IN:
        return fx
    u = np.minimum(depth / SWEEP_IN, 1.0)
    w = u * u * (3.0 - 2.0 * u)
    return np.where(w >= 1.0, fx, x + w * (fx - x))


def engaged_blend(x: Floats, fx: Floats, depth: Floats) -> Floats:
    """Output of a ``blend``: (1 − depth)·x + depth·f(x)."""
    if lowest(depth) >= 1.0:
        return fx
    return np.where(depth >= 1.0, fx, (1.0 - depth) * x + depth * fx)
