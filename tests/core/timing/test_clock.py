"""Samples, frames and timecode."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bathyphon.core.errors import Refused
from bathyphon.core.timing.clock import Clock, parse_rate

RATES = [Fraction(24), Fraction(25), Fraction(30), Fraction(24000, 1001), Fraction(30000, 1001)]
CLOCKS = [Clock(rate, samples) for rate in RATES for samples in (44100, 48000, 96000)]
DROP = Clock(Fraction(30000, 1001), 48000, drop_frame=True)


@pytest.mark.parametrize("clock", CLOCKS)
@given(frame=st.integers(0, 10_000_000))
def test_a_frame_begins_at_its_first_sample(clock, frame):
    sample = clock.sample_of_frame(frame)
    assert clock.frame_of_sample(sample) == frame
    assert sample == 0 or clock.frame_of_sample(sample - 1) == frame - 1


@pytest.mark.parametrize("clock", [*CLOCKS, DROP, Clock(Fraction(60000, 1001), 48000, True)])
@given(frame=st.integers(0, 2_000_000))
def test_timecode_and_back(clock, frame):
    assert clock.frame_of_timecode(clock.timecode_of_frame(frame)) == frame


def test_moving_by_frames_over_an_hour_does_not_drift():
    clock = Clock(Fraction(30000, 1001), 48000)
    sample = 0
    for _ in range(36_000):
        sample = clock.move_by_frames(sample, 3)
    assert sample == clock.sample_of_frame(108_000)


@pytest.mark.parametrize("text", ["", "1:2:3:4", "00:00:00:25", "00:61:00:00", "x", "00:00:00"])
def test_what_is_no_timecode_is_refused(text):
    with pytest.raises(Refused, match=r"timecode|frame"):
        Clock(Fraction(25), 48000).frame_of_timecode(text)


def test_a_skipped_number_is_refused():
    with pytest.raises(Refused, match="skipped"):
        DROP.frame_of_timecode("00:01:00;00")


@pytest.mark.parametrize("text", ["0/1", "25/0", "fast", "-25", "1e3"])
def test_what_is_no_rate_is_refused(text):
    with pytest.raises(Refused):
        parse_rate(text)
