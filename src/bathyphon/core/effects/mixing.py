"""Direct sound and effect together (DESIGN rules: up to half, turning it up takes nothing away)."""

from __future__ import annotations

import math

from numba import njit

from bathyphon.core.curves import SILENCE_DB, Floats, constant

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


@njit(cache=True, nogil=True)
def _still(a: Floats, b: Floats, c: Floats) -> bool:  # pragma: no cover - compiled
    differing = 0
    for i in range(a.size):
        differing += (a[i] != a[0]) | (b[i] != b[0]) | (c[i] != c[0])
    return differing == 0


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
    still = _still(mix, dry_db, wet_db)
    for i in range(mix.size):
        if dry_db[i] != last_dry:
            last_dry = dry_db[i]
            dry_gain = _linear(last_dry)
            last_mix = math.nan
        if wet_db[i] != last_wet:
            last_wet = wet_db[i]
            wet_gain = _linear(last_wet) * scale
            last_mix = math.nan
        if mix[i] != last_mix:
            last_mix = mix[i]
            m = last_mix / 100.0
            a = wet_share(1.0 - m) * dry_gain
            b = wet_share(m) * wet_gain
        if still:
            break
        out[0, i] = a * dry[0, i] + b * wet[0, i]
        out[1, i] = a * dry[1, i] + b * wet[1, i]
    if still and mix.size:
        for side in range(2):
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
    none = constant(0.0, mix.size) if dry_db is None or wet_db is None else mix
    _mixed(
        dry,
        wet,
        mix,
        none if dry_db is None else dry_db,
        none if wet_db is None else wet_db,
        scale,
        wet,
    )
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
