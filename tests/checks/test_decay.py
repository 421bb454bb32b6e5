"""Decay times: noiseless exponential tones and decaying noise."""

import numpy as np
import pytest

from bathyphon.core.measure.decay import OCTAVES, decay_times

RATE = 48000


@pytest.mark.parametrize("t60", [0.4, 1.2, 5.0])
def test_exponential_tones(t60):
    """Source: arithmetic; T20 and T30 from −5 dB by ISO 3382-1 (from memory)."""
    t = np.arange(round((t60 * 1.3 + 0.3) * RATE)) / RATE
    envelope = 10 ** (-3 * t / t60)
    x = sum(np.sin(2 * np.pi * f * t) for f in OCTAVES) * envelope * 0.1
    for band in decay_times(np.stack([x, x]), RATE):
        assert band.t30 == pytest.approx(t60, rel=0.02), band
        assert band.t20 == pytest.approx(t60, rel=0.02), band


def test_decaying_noise():
    """Source: arithmetic; 5 % is ISO 3382-1's just noticeable difference (from memory)."""
    t60 = 2.0
    t = np.arange(round(2.8 * RATE)) / RATE
    rng = np.random.default_rng(1)
    x = rng.standard_normal((16, t.size)) * 10 ** (-3 * t / t60)
    for band in decay_times(x, RATE):
        if band.centre_hz >= 125:
            assert band.t30 == pytest.approx(t60, rel=0.05), band
