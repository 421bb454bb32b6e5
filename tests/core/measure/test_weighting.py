"""What is done without an import of SciPy's ``signal`` is held against it."""

import numpy as np
import pytest
from scipy.signal import firwin, sosfilt

from bathyphon.core.measure.between import FACTOR, KAISER_BETA, TAPS, interpolator
from bathyphon.core.measure.loudness import k_weighting
from bathyphon.core.measure.weighting import weighted


@pytest.mark.parametrize("rate", [8_000, 44_100, 48_000, 192_000])
@pytest.mark.parametrize("kind", [np.float32, np.float64])
def test_the_weighting_has_the_bits_of_the_reference_block_by_block(rate, kind):
    rng = np.random.default_rng(rate)
    sound = rng.standard_normal((2, 4000)).astype(kind)
    sections = k_weighting(rate)
    mine, theirs = np.zeros((2, 2, 2)), np.zeros((2, 2, 2))
    for block in np.split(sound, np.sort(rng.integers(0, 4000, 5)), axis=1):
        wanted, theirs = sosfilt(sections, block.astype(np.float64), axis=1, zi=theirs)
        np.testing.assert_array_equal(weighted(block, sections, mine), wanted)
        np.testing.assert_array_equal(mine, theirs)


def test_the_interpolator_is_that_of_the_window_method():
    taps = firwin(FACTOR * TAPS + 1, 1.0 / FACTOR, window=("kaiser", KAISER_BETA)) * FACTOR
    wanted = taps[:-1].reshape(TAPS, FACTOR).T[:, ::-1]
    np.testing.assert_allclose(interpolator(), wanted, rtol=1e-12, atol=1e-15)
