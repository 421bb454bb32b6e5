"""How long it sounds on, and how far ahead it looks."""

from __future__ import annotations

from bathyphon.core.dsp.latency import PEAKS
from bathyphon.core.effects.kit.settings import Settings

MEAN_SECONDS = 0.0015
# Peaks are known to a sample or so, and the gain itself bends the wave between two of them.
SLACK = 4


def mean_samples(sample_rate: int) -> int:
    """Samples of each of the two means."""
    return max(2, round(MEAN_SECONDS * sample_rate))


def lookahead(settings: Settings) -> int:
    """Samples from a peak's arrival until its gain is reached."""
    return PEAKS + 2 * mean_samples(settings.sample_rate) - 2 + SLACK
