"""Where a decay begins, of sounds of any length."""

import numpy as np
import pytest

from bathyphon.core.measure.decay import OCTAVES, decay_times, decaying

RATE = 48000


def begins(energy, centre_hz):
    """The plain form: the last sample around which there is half as much as at most."""
    width = round(4 * RATE / centre_hz)
    padded = np.pad(energy, (width // 2, width))
    around = np.array([padded[i : i + width].mean() for i in range(energy.size)])
    return int(np.flatnonzero(around >= around.max() / 2)[-1])


@pytest.mark.parametrize("seed", range(6))
def test_a_decay_begins_where_the_plain_form_says(seed):
    rng = np.random.default_rng(seed)
    samples = int(rng.integers(2, 9000))
    centre = OCTAVES[int(rng.integers(len(OCTAVES)))]
    fade = np.exp(-np.arange(samples) / rng.uniform(100, 4000))
    silent = int(rng.integers(0, samples // 2))
    energy = fade * rng.random(samples)
    energy[:silent] = 0.0
    begin, curve = decaying(energy, RATE, centre)
    assert abs(begin - begins(energy, centre)) <= 1
    assert curve[0] == 0.0
    assert (np.diff(curve) <= 0).all()


@pytest.mark.parametrize("samples", [1, 2, 100, 1500, 3000, 3050])
def test_a_sound_shorter_than_the_window_begins_within_itself(samples):
    for centre in OCTAVES:
        begin, curve = decaying(np.linspace(1.0, 0.1, samples), RATE, centre)
        assert 0 <= begin < samples
        assert curve.size == samples - begin
    assert all(band.begins < samples for band in decay_times(np.ones((2, samples)), RATE))
