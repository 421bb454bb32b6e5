"""Local maxima, held against SciPy's ``signal.find_peaks``."""

import numpy as np
import pytest
from scipy.signal import find_peaks

from bathyphon.core.measure.maxima import maxima


@pytest.mark.parametrize("apart", [1, 2, 5, 40])
@pytest.mark.parametrize("seed", range(4))
def test_they_are_those_of_the_reference(seed, apart):
    rng = np.random.default_rng(seed)
    curve = rng.standard_normal(3000)
    np.testing.assert_array_equal(maxima(curve, apart), find_peaks(curve, distance=apart)[0])
    # Level tops of any length; with distances apart, which of two equals stays is nobody's word.
    steps = np.repeat(rng.integers(0, 5, 700), rng.integers(1, 7, 700)).astype(float)
    np.testing.assert_array_equal(maxima(steps, 1), find_peaks(steps)[0])


@pytest.mark.parametrize("curve", [[], [1.0], [1.0, 1.0], [0.0, 1.0], [1.0, 0.0], [2.0, 2.0, 1.0]])
def test_what_has_no_top_has_none(curve):
    assert maxima(np.array(curve), 3).size == 0
