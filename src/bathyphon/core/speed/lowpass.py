"""Low-passes and steps of rate by SciPy's signal package.

It takes half a second to import and more: not before a sound is stretched.
"""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats


def lowpass(taps: int, cut_hz: float, sample_rate: float) -> Floats:
    """A linear-phase low-pass of so many taps, by a Kaiser window of 9."""
    from scipy.signal import firwin

    return np.asarray(firwin(taps, cut_hz, window=("kaiser", 9.0), fs=sample_rate))


def stepped(taps: Floats, x: Floats, up: int = 1, down: int = 1) -> Floats:
    """Sound of shape (channels, n) through a filter, at ``up / down`` times its rate."""
    from scipy.signal import upfirdn

    found: Floats = upfirdn(taps, x, up=up, down=down, axis=1)
    return found
