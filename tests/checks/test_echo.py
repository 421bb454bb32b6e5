"""Echo against arithmetic, common practice and a reference library."""

import numpy as np
import pedalboard
import pytest

from reels import Memory, document, effect, rendered, treatment

RATE = 48000


def response(seconds=4.0, rate=RATE, **params):
    """What an impulse becomes, shape (2, n)."""
    n = round(seconds * rate)
    x = np.zeros((2, n), np.float32)
    x[:, 4800] = 1.0
    span = treatment(0, n, effect("echo", **params))
    return rendered(document(n, rate=rate, treatments=[span]), Memory(m1=x))[:, 4800:n]


@pytest.mark.parametrize(("feedback", "fall"), [(75, 2.50), (50, 6.02), (20, 13.98), (15, 16.48)])
def test_each_repeat_falls_by_its_feedback(feedback, fall):
    """Source: arithmetic, repeat k at 20·k·log10(g) dB."""
    y = response(time_ms=250, feedback=feedback)[0]
    for k in range(1, 6):
        assert 20 * np.log10(y[k * 12000]) == pytest.approx(-k * fall, abs=0.005 * k)
    others = np.delete(y, np.arange(0, 6) * 12000)
    assert not others[: 6 * 12000 - 6].any()


def test_a_spoken_line_echo():
    """Source: common practice: 305 ms, feedback 50 %, direct sound 75 %."""
    y = response(time_ms=305, feedback=50, dry_db=20 * np.log10(0.75))[0]
    assert y[0] == pytest.approx(0.75, abs=1e-6)
    assert [y[k * 14640] for k in (1, 2, 3)] == pytest.approx([0.5, 0.25, 0.125])


def test_echo_by_copies():
    """Source: common practice: five copies, each 5 dB down."""
    y = response(time_ms=200, repeats=5, drop_db=5)[0]
    levels = [20 * np.log10(y[k * 9600]) for k in range(6)]
    assert levels == pytest.approx([0, -5, -10, -15, -20, -25], abs=1e-4)
    assert not y[5 * 9600 + 1 :].any()


@pytest.mark.parametrize("rate", [44100, 48000, 96000])
def test_time_at_every_rate(rate):
    """Source: arithmetic."""
    y = response(1.0, rate, time_ms=250, feedback=50)[0]
    assert np.flatnonzero(y)[1] == round(0.25 * rate)


def test_as_a_reference_delay_line():
    """Source: pedalboard's Delay, whose first repeat is at the level of the direct sound."""
    rng = np.random.default_rng(2)
    n = 3 * RATE
    x = (rng.standard_normal((2, n)) * 0.1).astype(np.float32)
    # Nothing sounds during the glide at the span's hard edge.
    x[:, :300] = 0.0
    theirs = pedalboard.Delay(delay_seconds=0.25, feedback=0.5, mix=1.0)(x, RATE)
    span = treatment(0, n, effect("echo", time_ms=250, feedback=50, mix=100))
    ours = rendered(document(n, treatments=[span], clip={}), Memory(m1=x))[:, :n]
    inside = slice(24_000, n - 1000)
    np.testing.assert_allclose(2 * ours[:, inside], theirs[:, inside], atol=3e-3)


def test_crossing_repeats_change_sides():
    """Source: arithmetic."""
    n = 2 * RATE
    x = np.zeros((2, n), np.float32)
    x[0, 4800] = 1.0
    span = treatment(0, n, effect("echo", time_ms=100, feedback=50, cross=100))
    y = rendered(document(n, treatments=[span]), Memory(m1=x))[:, 4800:n]
    assert [y[:, k * 4800].tolist() for k in (1, 2, 3)] == [[0, 0.5], [0.25, 0], [0, 0.125]]
