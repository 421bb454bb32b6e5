"""Convolution against SciPy's, and the shipped responses against room acoustics."""

import numpy as np
import pytest
from scipy.signal import fftconvolve

from bathyphon.core.dsp.convolution import SHORT, Convolver, partitioned
from bathyphon.core.effects.space.images import BANDS_HZ, Room, decay_times, room_response
from bathyphon.core.effects.space.spaces import response
from bathyphon.core.effects.space.table import SPACES
from bathyphon.core.measure.decay import integrated, octave_band, slope
from reels import treat

RATE = 48000


@pytest.mark.parametrize("length", [1, 700, 1024, 9000, 40000])
def test_convolution(length):
    """Source: SciPy's fftconvolve."""
    rng = np.random.default_rng(length)
    h = rng.standard_normal((2, 2, length)) / np.sqrt(length)
    x = rng.standard_normal((2, 30000))
    padded = np.concatenate([x, np.zeros((2, SHORT))], axis=1)
    convolver = Convolver(partitioned(h))
    found = convolver.process(padded, 0)[:, SHORT:]
    for b in range(2):
        wanted = sum(fftconvolve(x[a], h[a, b])[: x.shape[1]] for a in range(2))
        assert np.allclose(found[b], wanted, atol=1e-10)


@pytest.mark.parametrize(("size", "absorbed"), [((6.0, 4.5, 3.0), 0.2), ((24.0, 15.0, 9.0), 0.08)])
def test_rooms_decay_as_their_walls_say(size, absorbed):
    """Source: Eyring 1930 with the air's absorption (from memory); by ISO 3382's T30."""
    room = Room(size, (absorbed,) * 7, seed=3)
    h = room_response(room, RATE)
    for freq, wanted in zip(BANDS_HZ[1:5], decay_times(room)[1:5], strict=True):
        energy = np.sum(octave_band(h.reshape(4, -1), freq, RATE) ** 2, axis=0)
        assert slope(integrated(energy, RATE, freq), 30.0, RATE) == pytest.approx(wanted, rel=0.08)


@pytest.mark.parametrize("name", SPACES)
def test_every_place_keeps_the_level_and_rings_out(name):
    """Common practice: a louder effect only seems better."""
    x = np.zeros((2, RATE * 2))
    x[:, :RATE] = 0.1 * np.random.default_rng(4).standard_normal((2, RATE))
    y = treat("space", x, response=name, mix=100, dry_db=-96)
    assert np.isfinite(y).all()
    assert 20 * np.log10(y[:, RATE // 2 : RATE].std() / 0.1) == pytest.approx(0, abs=4)
    assert np.abs(y[:, RATE : RATE + 2400]).max() > 1e-3


def test_all_four_paths_differ_in_a_room():
    h = response("cavern", RATE)
    paths = h.reshape(4, -1)
    for i in range(4):
        for j in range(i):
            assert abs(np.corrcoef(paths[i], paths[j])[0, 1]) < 0.5
