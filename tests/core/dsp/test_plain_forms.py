"""Kernels that are hard to read, against the plain form of what they compute."""

import math

import numpy as np
import pytest
from scipy.linalg import hadamard
from scipy.signal import upfirdn

from bathyphon.core.compiled import njit
from bathyphon.core.dsp import delays, dynamics, mixing, oscillators, oversampling
from bathyphon.core.dsp.cascade import memory_for, stacked, through
from bathyphon.core.dsp.convolution import SHORT, Convolver, partitioned
from bathyphon.core.dsp.decibels import gain_of_db
from bathyphon.core.dsp.eights import aligned, load, store
from bathyphon.core.dsp.pan import law_gains
from bathyphon.core.dsp.sections import high_pass, high_shelf, low_pass, peak
from bathyphon.core.effects.reverb import matrix
from bathyphon.core.timing.shapes import SILENCE_DB

RATE = 48000.0
RNG = np.random.default_rng(15)


def section_by_section(sections, x):
    """A. Simper's state-variable filter as it is written down, one sample after the other."""
    y = x.copy()
    for g, k, m0, m1, m2 in ([float(v[0]) for v in section] for section in sections):
        for side in y:
            first = second = 0.0
            for i, v0 in enumerate(side):
                v3 = v0 - second
                v1 = (first + g * v3) / (1.0 + g * (g + k))
                v2 = second + g * v1
                first, second = 2.0 * v1 - first, 2.0 * v2 - second
                side[i] = m0 * v0 + m1 * v1 + m2 * v2
    return y


@pytest.mark.parametrize("count", [1, 2, 3, 5, 8])
def test_sections_in_series_beside_each_other_are_those_one_after_another(count):
    one = np.ones(1)
    drawn = [
        low_pass(3000 * one, 0.9 * one, RATE),
        high_pass(80 * one, 0.7 * one, RATE),
        peak(700 * one, 6 * one, 2 * one, RATE),
        high_shelf(5000 * one, -4 * one, 0.7 * one, RATE),
        low_pass(9000 * one, 0.6 * one, RATE),
        high_pass(40 * one, 0.5 * one, RATE),
        peak(2500 * one, -9 * one, 4 * one, RATE),
        peak(150 * one, 3 * one, 1 * one, RATE),
    ][:count]
    x = RNG.standard_normal((2, 700)) * 0.2
    y = through(stacked(drawn), x.copy(), 0, memory_for(count))
    assert np.allclose(y, section_by_section(drawn, x), rtol=0, atol=1e-12)


@njit
def spread(numbers):  # pragma: no cover - compiled
    a, b, c, d, e, f, g, h = matrix._spread(
        load(numbers, 0), load(numbers, 8), load(numbers, 16), load(numbers, 24),
        load(numbers, 32), load(numbers, 40), load(numbers, 48), load(numbers, 56),
    )  # fmt: skip
    store(numbers, 0, a)
    store(numbers, 8, b)
    store(numbers, 16, c)
    store(numbers, 24, d)
    store(numbers, 32, e)
    store(numbers, 40, f)
    store(numbers, 48, g)
    store(numbers, 56, h)


def test_lines_are_spread_by_the_matrix_of_hadamard():
    numbers = aligned(64)
    numbers[:] = RNG.standard_normal(64)
    before = numbers.reshape(8, 8).copy()
    spread(numbers)
    assert np.allclose(numbers.reshape(8, 8), hadamard(8) @ before, atol=1e-12)


def test_rows_of_the_matrix_of_sixteen():
    for k in range(16):
        assert np.array_equal(matrix._row(k), hadamard(16)[k])


@pytest.mark.parametrize("blocks", [(500,), (1, 99, 400), (250, 250)])
def test_up_and_down_are_polyphase_filters(blocks):
    up, down = oversampling.filters()
    x = RNG.standard_normal(500)
    past, fast, at = np.zeros(oversampling.PAST), [], 0
    for n in blocks:
        some = np.empty(4 * n)
        oversampling.up(x[at : at + n].copy(), up, past, some)
        fast.append(some)
        at += n
    fast = np.concatenate(fast)
    assert np.allclose(fast, upfirdn(up, x, up=4)[:2000], atol=1e-12)
    out, past = np.empty(500), np.zeros((4, oversampling.PAST))
    oversampling.down(fast, down, past, out)
    assert np.allclose(out, upfirdn(down, fast, down=4)[:500], atol=1e-12)


@pytest.mark.parametrize("length", [100, SHORT, 3 * SHORT + 7, 40_000])
def test_partitioned_convolution_is_convolution(length):
    response = RNG.standard_normal((2, 2, length)) * np.exp(-np.arange(length) / 4000)
    x = RNG.standard_normal((2, 9000))
    convolver = Convolver(partitioned(response))
    parts = [convolver.process(x[:, at : at + 777], at) for at in range(0, 9000, 777)]
    y = np.concatenate(parts, axis=1)
    for side in range(2):
        wanted = sum(np.convolve(x[k], response[k, side])[: 9000 - SHORT] for k in range(2))
        assert np.allclose(y[side, SHORT:], wanted, atol=1e-9)


def test_a_level_is_followed_as_it_is_written():
    x = RNG.standard_normal((2, 4000)) * np.repeat([0.5, 0.01, 0.3, 0.0], 1000)
    out = np.empty(4000)
    dynamics.levels(x, RATE, np.zeros(2), out)
    share = 1.0 - math.exp(-1.0 / (dynamics.LEVEL_SECONDS * RATE))
    power = np.zeros(2)
    for i in range(4000):
        power += share * (2.0 * x[:, i] ** 2 - power)
        assert abs(out[i] - 10.0 * math.log10(power.max())) < 1e-9


def test_a_gain_falls_by_its_attack_and_rises_by_its_release():
    target = np.repeat([0.0, -12.0, -3.0], 2000)
    attack, release = np.full(6000, 5.0), np.full(6000, 80.0)
    found = target.copy()
    dynamics.followed(found, attack, release, RATE, 0.0)
    last = 0.0
    for i, wanted in enumerate(target):
        ms = 5.0 if wanted < last else 80.0
        keep = math.exp(-1000.0 / (ms * RATE))
        last = keep * last + (1.0 - keep) * wanted
        assert abs(found[i] - last) < 1e-6


def test_a_delay_catches_up_at_a_bounded_speed():
    delay = np.concatenate([np.full(10, 100.0), np.full(50, 120.0), np.full(80, 90.0)])
    found = delay.copy()
    end = delays.slewed(found, 0.5, delays.NOWHERE)
    assert found[0] == 100.0
    assert np.abs(np.diff(found)).max() <= 0.5
    assert found[59] == 120.0
    assert end == found[-1] == 90.0


def test_standing_delays_fade_into_each_other():
    delay = np.repeat([100.0, 140.0], 1000)
    old, share = np.empty(2000), np.empty(2000)
    delays.faded(delay, 300, np.full(3, delays.NOWHERE), old, share)
    assert set(old[:1000]) == set(delay[:1000]) == {100.0}
    assert set(delay[1000:]) == {140.0}
    assert np.all(np.diff(share[1000:1300]) > 0)
    assert share[1000] == 0.0
    assert set(share[1300:]) == {1.0}


def test_a_phase_adds_up():
    rate = RNG.uniform(0.1, 900, 3000)
    out = np.empty(3000)
    end = oscillators.phases(rate, RATE, 0.25, out)
    plain = (0.25 + np.concatenate([[0.0], np.cumsum(rate / RATE)])) % 1.0
    assert np.allclose(np.exp(2j * np.pi * out), np.exp(2j * np.pi * plain[:-1]), atol=1e-9)
    assert abs(np.exp(2j * np.pi * end) - np.exp(2j * np.pi * plain[-1])) < 1e-9


@pytest.mark.parametrize("mix", [0.0, 10.0, 45.0, 48.0, 50.0, 80.0, 100.0])
def test_a_mix_is_the_sum_of_both_shares(mix):
    dry, wet = RNG.standard_normal((2, 2, 300))
    found = mixing.mixed(dry, wet.copy(), np.full(300, mix))
    a, b = mixing.wet_share(1.0 - mix / 100.0), mixing.wet_share(mix / 100.0)
    assert np.allclose(found, a * dry + b * wet, atol=1e-15)
    # Up to a half the direct sound stays whole, from a half on the effect does.
    assert a == 1.0 or mix > 50.0 - 100.0 * mixing.CORNER
    assert b == 1.0 or mix < 50.0


def test_levels_become_factors():
    db = np.array([0.0, -6.0, 12.0, SILENCE_DB, -120.0, -6.0])
    wanted = np.where(db > SILENCE_DB, 10.0 ** (db / 20.0), 0.0)
    assert np.array_equal(gain_of_db(db), wanted)


@pytest.mark.parametrize(("law", "middle_db"), [(0, -3.01), (1, -4.52), (2, -6.02)])
def test_a_law_of_panning_is_named_after_its_middle(law, middle_db):
    left, right = law_gains(np.array([-100.0, 0.0, 100.0]), law)
    assert max(left[2], right[0]) < 1e-12
    # The middle is left alone; the sides are as much louder as the law says.
    assert abs(20 * math.log10(left[0]) + middle_db) < 0.02
    assert left[1] == right[1] == 1.0
