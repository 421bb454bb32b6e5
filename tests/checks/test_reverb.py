"""The reverb's decay is the one that is set; it is dense, even, and lets a held moment go."""

from math import erfc, sqrt

import numpy as np
import pytest

from bathyphon.core.effects import EFFECTS
from bathyphon.core.effects.reverb.attenuation import decay_at
from bathyphon.core.measure.decay import decay_times, octave_band
from bathyphon.core.timing.curves import Curve

RATE = 48000
REVERB = EFFECTS["reverb"]


def responses(seconds, side=0, rate=RATE, **params):
    """Wet response of both outputs to a pulse on one input."""
    given = {"mix": 100.0, "predelay_ms": 0.0, "early_db": -96.0} | params
    curves = {k: Curve.constant(v, REVERB.parameter(k).scale) for k, v in given.items()}
    x = np.zeros((2, round(seconds * rate)))
    x[side, 0] = 1.0
    return REVERB.make(REVERB.settings(curves, rate)).process(x, 0, np.ones(x.shape[1]))


def mean_t30(sizes, **params):
    """T30 by octave over sizes, inputs and outputs: their mean and its standard error."""
    longest = params["decay_s"] * max(1, params.get("bass_decay", 1), params.get("treble_decay", 1))
    found = {}
    for size in sizes:
        for side in (0, 1):
            h = responses(1.1 * longest + 0.4, side, size=float(size), **params)
            for out in h:
                for band in decay_times(np.stack([out, out]), RATE):
                    if band.t30 is not None:
                        found.setdefault(band.centre_hz, []).append(band.t30)
    return {hz: (np.mean(v), np.std(v) / sqrt(len(v))) for hz, v in found.items()}


EVEN = {"bass_decay": 1.0, "treble_decay": 1.0}


@pytest.mark.parametrize(("decay_s", "sizes"), [(0.3, 12), (1.2, 8), (4.0, 3)])
def test_decay_is_what_is_set(decay_s, sizes):
    """Source: ISO 3382-1 (from memory) for T30; 5 % is its just noticeable difference."""
    for hz, (mean, error) in mean_t30(np.linspace(60, 140, sizes), decay_s=decay_s, **EVEN).items():
        if 125 <= hz <= 8000:
            bound = 0.02 if hz >= 500 else 0.05
            assert abs(mean / decay_s - 1) < bound + 2 * error / decay_s, (hz, mean / decay_s)


def t30_of_octave(hz, decay_s, bass, treble):
    """T30 of noise through the octave's filter, if every frequency decays at its own rate."""
    pulse = np.zeros(1 << 16)
    pulse[pulse.size // 2] = 1
    weight = np.abs(np.fft.rfft(octave_band(pulse, hz, RATE))) ** 2
    inside = np.fft.rfftfreq(pulse.size, 1 / RATE)
    seen = weight > 1e-5 * weight.max()
    weight, inside = weight[seen], inside[seen]
    rate = 60 / decay_at(inside, decay_s, bass, treble)
    t = np.linspace(0, decay_s * max(1, bass, treble), 500)
    left = 10 * np.log10(np.sum(10 ** (-rate * t[:, None] / 10) / rate * weight, axis=1))
    left -= left[0]
    fit = (left <= -5) & (left >= -35)
    return -60 / np.polyfit(t[fit], left[fit], 1)[0]


@pytest.mark.parametrize(("bass", "treble"), [(1.4, 0.6), (0.6, 1.5)])
def test_bass_and_treble_decay_apart(bass, treble):
    """Source: the same; in the octaves next to an edge several rates mix."""
    decay_s = 1.5
    found = mean_t30(np.linspace(60, 140, 5), decay_s=decay_s, bass_decay=bass, treble_decay=treble)
    for hz, wanted in ((125, bass), (1000, 1.0), (8000, treble)):
        assert t30_of_octave(hz, decay_s, bass, treble) / decay_s == pytest.approx(wanted, rel=0.01)
    for hz, (mean, error) in found.items():
        if 125 <= hz <= 8000:
            bound = 0.02 if hz >= 500 else 0.05
            wanted = t30_of_octave(hz, decay_s, bass, treble)
            assert abs(mean / wanted - 1) < bound + 2 * error / wanted, (hz, mean / wanted)


def density(h, seconds):
    """Share of samples beyond one standard deviation, 1 for Gaussian noise.

    Source: Abel and Huang, "A simple, robust measure of reverberation echo density", 2006 (memory).
    """
    window = np.hanning(round(0.02 * RATE))
    window /= window.sum()
    middle = round(seconds * RATE)
    part = h[middle - window.size // 2 :][: window.size]
    far = np.abs(part) > np.sqrt(np.sum(window * part**2))
    return np.sum(window * far) / erfc(1 / sqrt(2))


def test_dense_by_60_ms():
    """Source: the design's goal of 0.9 by 60 ms."""
    found = [
        density(out, 0.06)
        for side in (0, 1)
        for size in (90.0, 95.0, 100.0)
        for out in responses(0.2, side, decay_s=2.0, size=size)
    ]
    assert np.mean(found) >= 0.9, found


@pytest.mark.parametrize("decay_s", [4.0, 10.0])
def test_long_tails_do_not_ring(decay_s):
    """Source: the design's goal: spectral flatness of the late tail against noise at least 0.85."""
    found = []
    for side in (0, 1):
        for out in responses(0.8 * decay_s, side, decay_s=decay_s, **EVEN):
            late = out[round(0.3 * decay_s * RATE) :]
            level = late * 10 ** (3 * np.arange(late.size) / RATE / decay_s)
            power = np.abs(np.fft.rfft(level * np.hanning(level.size))) ** 2
            hz = np.fft.rfftfreq(level.size, 1 / RATE)
            power = power[(hz > 200) & (hz < 8000)]
            # A periodogram of noise has a flatness of e^−γ.
            found.append(np.exp(np.mean(np.log(power)) + 0.5772) / power.mean())
    assert np.mean(found) >= 0.85, found


def test_as_loud_as_the_direct_sound_whatever_the_decay():
    """Common practice: turning the decay does not turn the level."""
    x = np.random.default_rng(1).standard_normal((2, 12 * RATE))
    levels = []
    for decay_s in (0.4, 1.5, 6.0):
        curves = {"mix": Curve.constant(100.0), "decay_s": Curve.constant(decay_s, "log")}
        y = REVERB.make(REVERB.settings(curves, RATE)).process(x, 0, np.ones(x.shape[1]))
        levels.append(20 * np.log10(y[:, 8 * RATE :].std() / x.std()))
    assert max(levels) - min(levels) < 2.5, levels
    assert -7 < np.mean(levels) < 1, levels
