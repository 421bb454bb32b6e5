"""Level over time, as compressors and gates see it.

D. Giannoulis, M. Massberg and J. D. Reiss, "Digital dynamic range compressor design — a tutorial
and analysis", J. Audio Eng. Soc. 60, 2012: the level is measured first, the gain is computed in
decibels, and what changes is the gain, with its own attack and release. The level is the RMS of
the louder side, on the scale of AES17: a full-scale sine is 0 dB.
"""

from __future__ import annotations

import math

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.dsp.filters import FLUSH

LEVEL_SECONDS = 0.01
SILENCE_DB = -120.0


@njit(cache=True, nogil=True)
def levels(x: Floats, sample_rate: float, memory: Floats, out: Floats) -> None:  # pragma: no cover
    """Level in dB of the louder side at each sample; ``memory`` of shape (2,)."""
    share = 1.0 - math.exp(-1.0 / (LEVEL_SECONDS * sample_rate))
    for i in range(x.shape[1]):
        for side in range(2):
            m = memory[side] + share * (2.0 * x[side, i] * x[side, i] - memory[side])
            memory[side] = m if m > FLUSH else 0.0
        power = max(memory[0], memory[1])
        out[i] = 10.0 * math.log10(power) if power > 1e-12 else SILENCE_DB


@njit(cache=True, nogil=True)
def followed(
    target_db: Floats, attack_ms: Floats, release_ms: Floats, sample_rate: float, last: float
) -> float:  # pragma: no cover - compiled
    """Gains in dB on their way to their targets, in place: down by attack, up by release."""
    a_of = r_of = -1.0
    attack = release = 0.0
    for i in range(target_db.size):
        if attack_ms[i] != a_of:
            a_of = attack_ms[i]
            attack = math.exp(-1000.0 / (max(a_of, 0.01) * sample_rate))
        if release_ms[i] != r_of:
            r_of = release_ms[i]
            release = math.exp(-1000.0 / (max(r_of, 0.01) * sample_rate))
        keep = attack if target_db[i] < last else release
        last = keep * last + (1.0 - keep) * target_db[i]
        if abs(last) < 1e-9:
            last = 0.0
        target_db[i] = last
    return last
