"""Shelves, bands, static curves, swings and steps against formulas and SciPy."""

import numpy as np
import pytest
from scipy.signal import butter, freqz, sosfreqz

from bathyphon.core.effects.compress.sound import static_gain
from reels import response_db, treat

RATE = 48000


def cookbook_shelf(freq, gain_db, high):
    """R. Bristow-Johnson, Audio EQ Cookbook, shelves with Q = 0.7071 (from memory)."""
    a = 10 ** (gain_db / 40)
    w = 2 * np.pi * freq / RATE
    c, alpha = np.cos(w), np.sin(w) / np.sqrt(2)
    s = 1 if high else -1
    root = 2 * np.sqrt(a) * alpha
    b = [a * (a + 1 + s * (a - 1) * c + root), -2 * s * a * (a - 1 + s * (a + 1) * c),
         a * (a + 1 + s * (a - 1) * c - root)]  # fmt: skip
    d = [a + 1 - s * (a - 1) * c + root, 2 * s * (a - 1 - s * (a + 1) * c),
         a + 1 - s * (a - 1) * c - root]  # fmt: skip
    return b, d


@pytest.mark.parametrize("gain", [-24, -6, 3, 12, 24])
@pytest.mark.parametrize(
    ("id", "freq", "high"), [("bass_db", 250, False), ("treble_db", 3200, True)]
)
def test_tone_is_the_cookbooks_shelf(id, freq, high, gain):
    """Source: Audio EQ Cookbook, response by SciPy."""
    hz = np.geomspace(20, 20000, 200)
    _, h = freqz(*cookbook_shelf(freq, gain, high), worN=hz, fs=RATE)
    assert np.abs(response_db("tone", hz, **{id: gain}) - 20 * np.log10(np.abs(h))).max() < 0.05


@pytest.mark.parametrize(("low", "high"), [(300, 3400), (50, 7000), (730, 3400)])
def test_telephone_band(low, high):
    """Source: ITU-T G.712 and G.722 for the bands (from memory); −3 dB at both edges."""
    at_edges = response_db("telephone", np.array([low, high]), low_hz=low, high_hz=high, level_db=0)
    if high / low > 8:
        assert at_edges == pytest.approx([-3.01, -3.01], abs=0.1)
    hz = np.geomspace(20, 20000, 200)
    sides = (butter(4, low, "high", fs=RATE, output="sos"), butter(8, high, fs=RATE, output="sos"))
    _, h = sosfreqz(np.concatenate(sides), worN=hz, fs=RATE)
    wanted = 20 * np.log10(np.abs(h) + 1e-12)
    found = response_db("telephone", hz, low_hz=low, high_hz=high, level_db=0)
    inside = wanted > -60
    assert np.abs(found - wanted)[inside].max() < 0.1


def test_telephone_noise_has_its_level_and_never_repeats():
    """A noise of some length that repeats would be heard as a tone; common practice."""
    noise = treat("telephone", np.zeros((2, 4 * RATE)), noise_db=-40)
    assert 20 * np.log10(noise.std()) == pytest.approx(-44, abs=1)
    for side in noise:
        spectrum = np.abs(np.fft.rfft(side, 2 * side.size)) ** 2
        like = np.fft.irfft(spectrum)[: side.size // 2]
        # Beyond the few milliseconds over which a band of 3 kHz is like itself.
        assert np.abs(like[RATE // 100 :]).max() < 0.05 * like[0]


@pytest.mark.parametrize("level", [-50, -30, -23, -20, -17, -10, -3])
@pytest.mark.parametrize(("threshold", "ratio", "knee"), [(-20, 4, 0), (-20, 4, 12), (-30, 20, 6)])
def test_compressor_static_curve(level, threshold, ratio, knee):
    """Source: Giannoulis, Massberg and Reiss 2012 (from memory); within 0.1 dB on a steady tone."""
    t = np.arange(RATE * 2) / RATE
    x = np.stack([np.sin(2 * np.pi * 1000 * t)] * 2) * 10 ** (level / 20)
    y = treat("compress", x, threshold_db=threshold, ratio=ratio, knee_db=knee, attack_ms=5)
    found = 20 * np.log10(y[0, RATE:].std() * np.sqrt(2)) - level
    one = np.array([float(level)])
    over = level - threshold
    if abs(over) <= knee / 2:
        wanted = (1 / ratio - 1) * (over + knee / 2) ** 2 / (2 * knee) if knee else 0.0
    else:
        wanted = (1 / ratio - 1) * max(over, 0)
    assert static_gain(one, threshold + 0 * one, ratio + 0 * one, knee + 0 * one)[
        0
    ] == pytest.approx(wanted, abs=1e-9)
    assert found == pytest.approx(wanted, abs=0.1)


def test_gate_opens_and_closes():
    """Common practice."""
    t = np.arange(RATE * 3) / RATE
    x = np.stack([np.sin(2 * np.pi * 500 * t)] * 2) * np.where((t > 1) & (t < 2), 0.5, 0.001)
    y = treat("gate", x, threshold_db=-40, range_db=30)
    level = lambda s, a, b: 20 * np.log10(s[0, int(a * RATE) : int(b * RATE)].std())  # noqa: E731
    assert level(y, 0.5, 0.9) - level(x, 0.5, 0.9) == pytest.approx(-30, abs=0.1)
    assert level(y, 1.2, 1.9) - level(x, 1.2, 1.9) == pytest.approx(0, abs=0.01)
    assert level(y, 2.6, 2.9) - level(x, 2.6, 2.9) == pytest.approx(-30, abs=0.1)


def test_pan_laws_and_levels():
    """Source: arithmetic; 130 % is +2.28 dB."""
    x = np.ones((2, 8))
    for position in (-100, -60, 0, 25, 100):
        for law, power in ((-3, 2.0), (-6, None)):
            y = treat("pan", x, position=position, law=law)
            if power:
                assert np.sum(y[:, 0] ** 2) == pytest.approx(power)
            else:
                assert np.sum(y[:, 0]) == pytest.approx(2.0)
    assert np.array_equal(treat("pan", x, position=0, law=-4.5), x)
    y = treat("pan", x, left_level=130, right_level=0)
    assert 20 * np.log10(y[0, 0]) == pytest.approx(2.28, abs=0.01)
    assert np.all(y[1] == 0)


def test_ring_moves_a_tone_both_ways():
    """Source: arithmetic: sin a · sin b = ½ cos(a − b) − ½ cos(a + b)."""
    t = np.arange(RATE) / RATE
    x = np.stack([np.sin(2 * np.pi * 1000 * t)] * 2)
    spectrum = np.abs(np.fft.rfft(treat("ring", x, freq_hz=300)[0])) * 2 / RATE
    assert spectrum[[700, 1300]] == pytest.approx([0.5, 0.5], abs=1e-3)
    assert spectrum[1000] < 1e-3


def test_tremolo_swings_as_far_and_as_often_as_it_says():
    """Source: arithmetic."""
    y = treat("tremolo", np.ones((2, RATE)), rate_hz=4, swing=80, stereo=180)
    assert y.max() == pytest.approx(1.0, abs=1e-6)
    assert y.min() == pytest.approx(0.2, abs=1e-6)
    assert np.argmax(np.abs(np.fft.rfft(y[0] - y[0].mean()))) == 4
    assert np.corrcoef(y[0], y[1])[0, 1] == pytest.approx(-1, abs=1e-6)


def test_crush_has_so_many_steps():
    """Source: arithmetic: 4 bits are steps of 1/8."""
    x = np.stack([np.linspace(-0.9, 0.9, 5000)] * 2)
    y = treat("crush", x, bits=4, rate_hz=48000)
    assert np.allclose(y * 8, np.rint(y * 8))
    assert np.abs(y - x).max() <= 1 / 16 + 1e-12
    held = treat("crush", x, bits=16, rate_hz=4800)
    assert np.unique(held[0]).size == pytest.approx(500, abs=2)
