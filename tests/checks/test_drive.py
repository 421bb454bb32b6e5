"""What drive adds are harmonics: what lies between them is measured."""

import numpy as np
import pytest
from scipy.signal.windows import blackmanharris

from reels import response_db, tone, treat

RATE = 48000


def between_harmonics_db(y, hz):
    """Power in the audible band that lies at no harmonic, against all of it."""
    power = np.abs(np.fft.rfft(y * blackmanharris(y.size))) ** 2
    freq = np.fft.rfftfreq(y.size, 1 / RATE)
    near = np.abs(freq / hz - np.rint(freq / hz)) * hz < 8
    return 10 * np.log10(power[(freq < 20000) & ~near].sum() / power.sum())


@pytest.mark.parametrize("hz", [1000.3, 3111.9, 5000.7])
@pytest.mark.parametrize("shape", ["soft", "hard", "fold"])
def test_aliasing(shape, hz):
    """Source: common practice for oversampled waveshapers; −75 dB at 24 dB of drive."""
    y = treat("drive", tone(hz, 1.5, 0.7), amount_db=24, shape=shape, tone_hz=20000)
    assert between_harmonics_db(y[0, RATE // 2 :], hz) < -75


def test_undriven_it_is_flat_and_in_time():
    """Source: arithmetic."""
    hz = np.geomspace(20, 20000, 200)
    assert np.abs(response_db("drive", hz, amount_db=0, tone_hz=20000)).max() < 0.05
    pulse = np.zeros((2, 500))
    pulse[:, 200] = 1e-4
    assert np.argmax(np.abs(treat("drive", pulse, amount_db=0, tone_hz=20000)[0])) == 200


def test_hard_is_flat_above_its_ceiling():
    """Source: arithmetic: clipped at ±1, with half of the gain taken back."""
    y = treat("drive", tone(100, 0.5), amount_db=20, shape="hard", tone_hz=20000)
    assert np.median(np.abs(y[0, 4800:])) == pytest.approx(10 ** (-10 / 20), rel=0.02)
