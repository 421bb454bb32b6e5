"""Where in its medium a sound has got to: steady, moving, and back again."""

import numpy as np
import pytest

from bathyphon.core.timing.curves import Curve, Keyframe
from bathyphon.core.timing.integral import CurveArea, shape_area
from bathyphon.core.timing.pace import Moving, Steady, pace_of, stretched_length
from bathyphon.core.timing.shapes import SHAPES

RATE = 48000


def drawn(seed):
    """A speed that moves, holds and jumps."""
    rng = np.random.default_rng(seed)
    count = int(rng.integers(2, 7))
    places = np.sort(rng.choice(20_000, count, replace=False)).tolist()
    eases = rng.choice(list(SHAPES), count).tolist()
    return Curve(
        tuple(
            Keyframe(at, float(rng.uniform(20, 300)), ease, float(rng.uniform(-1, 1)), soft)
            for at, ease, soft in zip(places, eases, rng.choice([0.0, 0.7], count), strict=True)
        )
    )


def test_a_steady_pace_goes_by_its_percent_and_back():
    pace = pace_of(Curve.constant(80.0), 500, RATE)
    assert isinstance(pace, Steady)
    t = np.array([0.0, 1000.0, 4321.0])
    assert np.allclose(pace.at(t), 0.8 * t)
    assert np.allclose(pace.when(pace.at(t), 0.0, 5000.0), t)


def test_a_speed_that_stands_is_one_that_moves():
    # Nothing could be divided by it.
    assert isinstance(pace_of(Curve.constant(0.0), 0, RATE), Moving)


@pytest.mark.parametrize("seed", range(25))
def test_places_are_the_sum_of_all_speeds_before(seed):
    curve = drawn(seed)
    pace = Moving(curve, -300, RATE)
    speeds = curve.values(-300, 24_001, RATE) / 100.0
    # By trapezoids, which are off where a speed bends or steps between two samples.
    walked = np.concatenate([[0.0], np.cumsum(0.5 * (speeds[1:] + speeds[:-1]))])
    found = pace.at(np.arange(24_001, dtype=float))
    assert np.abs(found - walked).max() < 0.5
    assert np.all(np.diff(found) >= 0.0)


@pytest.mark.parametrize("seed", range(25, 40))
def test_a_moment_is_found_again_by_its_place(seed):
    pace = Moving(drawn(seed), 0, RATE)
    t = np.random.default_rng(seed).uniform(0, 24_000, 60)
    assert np.abs(pace.when(pace.at(t), 0.0, 24_000.0) - t).max() < 1e-6


@pytest.mark.parametrize("ease", list(SHAPES))
@pytest.mark.parametrize("soft", [0.0, 0.5, 1.0])
def test_the_area_under_a_shape_is_that_of_many_thin_slices(ease, soft):
    frames = (Keyframe(0, 0.0, ease, 0.4, soft), Keyframe(100_000, 1.0))
    curve = Curve(frames)
    values = curve.values(0, 100_000, RATE)
    share = shape_area(ease, 0.4, soft, np.array([1.0]))[0]
    assert abs(values.mean() - share) < 2e-5
    area = CurveArea(curve, RATE).at(np.array([100_000.0]))[0]
    assert abs(area - share * 100_000) < 1e-6


@pytest.mark.parametrize(
    ("samples", "percent", "length"),
    [(48000, 100.0, 48000), (48000, 125.0, 38400), (1, 200.0, 1), (1, 200.1, 0), (7, 33.3, 21)],
)
def test_a_length_is_rounded_in_exact_decimals(samples, percent, length):
    assert stretched_length(samples, percent) == length
