"""Direct sound and effect together (DESIGN rules: up to half, turning it up takes nothing away)."""

from __future__ import annotations

import math

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.timing.constants import constant, still
from bathyphon.core.timing.shapes import SILENCE_DB

# Around the middle the rule has a corner; a mix that steps across it would be heard there.
CORNER = 0.04


@njit(cache=True, nogil=True, inline="always")
def wet_share(mix: float) -> float:  # pragma: no cover - compiled
    """Share of the effect at a mix of 0 to 1: min(1, 2m), its corner rounded just below a half."""
    if mix <= 0.5 - CORNER:
        return 2.0 * mix
    if mix >= 0.5:
        return 1.0
    # The cubic that leaves the slope of 2 and arrives level.
    u = (mix - 0.5 + CORNER) / CORNER
    low = 1.0 - 2.0 * CORNER
    h = u * u * (3.0 - 2.0 * u)
    return low + (1.0 - low) * h + 2.0 * CORNER * u * (1.0 - u) * (1.0 - u)


@njit(cache=True, nogil=True, inline="always")
def _linear(db: float) -> float:  # pragma: no cover - compiled
    return 0.0 if db <= SILENCE_DB else 10.0 ** (db / 20.0)


def standing_shares(mix: float, dry_db: float) -> tuple[float, float]:
    """Factors on direct sound and effect, at a mix in percent that never moves."""
    return float(wet_share(1.0 - mix / 100.0) * _linear(dry_db)), float(wet_share(mix / 100.0))


@njit(cache=True, nogil=True)
def _sum(
    dry: Floats, a: float, wet: Floats, b: float, out: Floats
) -> None:  # pragma: no cover - compiled
    for i in range(out.size):
        out[i] = a * dry[i] + b * wet[i]


@njit(cache=True, nogil=True)
def _mixed(
    dry: Floats, wet: Floats, mix: Floats, dry_db: Floats, wet_db: Floats, scale: float, out: Floats
) -> None:  # pragma: no cover - compiled
    last_mix = last_dry = last_wet = math.nan
    dry_gain = wet_gain = a = b = 0.0
    steps = min(1, mix.size - 1), min(1, dry_db.size - 1), min(1, wet_db.size - 1)
    still = max(steps) == 0
    for i in range(1 if still else out.shape[1]):
        m, d, w = mix[i * steps[0]], dry_db[i * steps[1]], wet_db[i * steps[2]]
        if d != last_dry:
            last_dry = d
            dry_gain = _linear(d)
            last_mix = math.nan
        if w != last_wet:
            last_wet = w
            wet_gain = _linear(w) * scale
            last_mix = math.nan
        if m != last_mix:
            last_mix = m
            a = wet_share(1.0 - m / 100.0) * dry_gain
            b = wet_share(m / 100.0) * wet_gain
        if not still:
            out[0, i] = a * dry[0, i] + b * wet[0, i]
            out[1, i] = a * dry[1, i] + b * wet[1, i]
    for side in range(2 * still):
        _sum(dry[side], a, wet[side], b, out[side])


def mixed(
    dry: Floats,
    wet: Floats,
    mix: Floats,
    dry_db: Floats | None = None,
    wet_db: Floats | None = None,
    scale: float = 1.0,
) -> Floats:
    """Direct sound and effect in the proportion of a mix.

    Parameters
    ----------
    dry, wet : ndarray, shape (2, n)
    mix : ndarray, shape (n,)
        Percent.
    dry_db, wet_db : ndarray, shape (n,), optional
        Levels of both, apart from the mix; 0 dB without.
    scale : float
        A factor on the effect.

    Returns
    -------
    ndarray, shape (2, n)
        In the place of ``wet``.
    """
    if mix.size:
        none = constant(0.0, 1)
        dry_level = none if dry_db is None else still(dry_db)
        wet_level = none if wet_db is None else still(wet_db)
        _mixed(dry, wet, still(mix), dry_level, wet_level, scale, wet)
    return wet


@njit(cache=True, nogil=True)
def widened(x: Floats, width: Floats) -> None:  # pragma: no cover - compiled
    """Set the stereo width in percent, in place; 0 is the middle alone."""
    for i in range(width.size):
        middle = 0.5 * (x[0, i] + x[1, i])
        side = 0.5 * (x[0, i] - x[1, i]) * (width[i] / 100.0)
        x[0, i] = middle + side
        x[1, i] = middle - side


@njit(cache=True, nogil=True)
def levelled(x: Floats, level_db: Floats) -> None:  # pragma: no cover - compiled
    """Set the level in dB, in place."""
    last = math.nan
    gain = 1.0
    for i in range(level_db.size):
        if level_db[i] != last:
            last = level_db[i]
            gain = _linear(last)
        x[0, i] *= gain
        x[1, i] *= gain
