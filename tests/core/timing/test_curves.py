"""Shapes, keyframes and envelopes."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bathyphon.core.dsp.decibels import gain_of_db
from bathyphon.core.timing.curves import Curve, Keyframe
from bathyphon.core.timing.envelopes import Envelope
from bathyphon.core.timing.sampling import shape_at
from bathyphon.core.timing.shapes import SHAPES

RATE = 48000


@pytest.mark.parametrize(
    ("shape", "at", "value"),
    [
        ("linear", 0.25, 0.25),
        ("smooth", 0.25, 3 * 0.25**2 - 2 * 0.25**3),
        ("equal_power", 0.5, np.sqrt(0.5)),
        ("log", 0.5, 9 / 99),
        ("bend", 0.5, 0.5),
        ("hold", 0.5, 0.0),
    ],
)
def test_shapes_follow_their_formulas(shape, at, value):
    assert shape_at(SHAPES[shape], 0.0, at) == pytest.approx(value, abs=1e-12)


@pytest.mark.parametrize("bend", [-1.0, -0.5, 0.5, 1.0])
def test_bend_arrives_early_or_late(bend):
    assert shape_at(SHAPES["bend"], bend, 0.5) == pytest.approx(0.5 ** (4.0**bend))


def test_values_hold_before_the_first_and_after_the_last_keyframe():
    curve = Curve((Keyframe(100, 2.0), Keyframe(200, 4.0)))
    values = curve.values(0, 400, RATE)
    assert (values[:101] == 2.0).all()
    assert (values[200:] == 4.0).all()
    assert values[150] == pytest.approx(3.0)


def test_frequencies_move_on_a_logarithmic_scale():
    curve = Curve((Keyframe(0, 100.0), Keyframe(1000, 10000.0)), "log")
    assert curve.values(500, 1, RATE)[0] == pytest.approx(1000.0)


def test_a_held_value_steps_as_a_five_millisecond_glide():
    curve = Curve((Keyframe(0, 0.0, "hold"), Keyframe(1000, 1.0)))
    values = curve.values(0, 2000, RATE)
    assert (values[:1001] == 0.0).all()
    assert (np.diff(values[1000:1240]) > 0).all()
    assert (values[1240:] == 1.0).all()


@given(
    points=st.lists(
        st.tuples(st.integers(-5000, 5000), st.floats(20, 20000), st.sampled_from(sorted(SHAPES))),
        min_size=1,
        max_size=6,
        unique_by=lambda p: p[0],
    ),
    start=st.integers(-6000, 6000),
    cut=st.integers(1, 499),
    scale=st.sampled_from(["linear", "log"]),
)
def test_values_do_not_depend_on_blocks(points, start, cut, scale):
    frames = tuple(Keyframe(a, v, e, 0.3) for a, v, e in sorted(points))
    curve = Curve(frames, scale)
    whole = curve.values(start, 500, RATE)
    parts = [curve.values(start, cut, RATE), curve.values(start + cut, 500 - cut, RATE)]
    assert np.concatenate(parts).tobytes() == whole.tobytes()


@given(
    points=st.lists(st.integers(0, 50_000), min_size=2, max_size=8, unique=True),
    moved=st.floats(0, 1),
    start=st.integers(0, 50_000),
)
def test_equal_touching_means_equal_values(points, moved, start):
    at = sorted(points)
    curve = Curve(tuple(Keyframe(a, float(i), "hold") for i, a in enumerate(at)))
    last = Keyframe(at[-1], moved, "hold")
    other = Curve((*curve.keyframes[:-1], last))
    if curve.touching(start, start + 500, RATE) == other.touching(start, start + 500, RATE):
        assert (curve.values(start, 500, RATE) == other.values(start, 500, RATE)).all()


def test_an_envelope_ramps_as_the_rules_say():
    values = Envelope(1000, head=100, foot=200).values(-5, 1010)
    k = np.arange(1000)
    expected = np.minimum(1.0, k / 100) * np.minimum(1.0, (1000 - k) / 200)
    np.testing.assert_allclose(values[5:1005], expected, atol=1e-15)
    assert (values[:5] == 0).all()
    assert (values[1005:] == 0).all()
    assert values[1004] == pytest.approx(1 / 200)


def test_minus_96_decibels_is_silence():
    gains = gain_of_db(np.array([0.0, -6.0, -95.9, -96.0, -120.0]))
    assert gains[0] == 1.0
    assert gains[2] > 0.0
    assert (gains[3:] == 0.0).all()


@pytest.mark.parametrize("seed", range(40))
def test_a_value_at_one_sample_is_that_of_the_compiled_curve(seed):
    """The kernels' plain form: what an edit reads without the compiler."""
    rng = np.random.default_rng(seed)
    scale = ("linear", "log", "db")[seed % 3]
    count = int(rng.integers(1, 7))
    places = np.sort(rng.choice(3000, count, replace=False)).tolist()
    low, high = {"linear": (-5.0, 5.0), "log": (20.0, 20000.0), "db": (-96.0, 12.0)}[scale]
    values = rng.uniform(low, high, count).tolist()
    if scale == "db" and count > 1:
        values[int(rng.integers(count))] = -96.0
    frames = tuple(
        Keyframe(at, value, str(rng.choice(list(SHAPES))), float(rng.uniform(-1, 1)), soft)
        for at, value, soft in zip(places, values, rng.choice([0.0, 0.5], count), strict=True)
    )
    curve = Curve(frames, scale, straight=bool(seed % 5 == 0))
    whole = curve.values(-50, 3200, 48000)
    for place in range(-50, 3150, 7):
        assert curve.at(place, 48000) == whole[place + 50], (place, frames)
