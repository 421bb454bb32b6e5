"""Time: arithmetic, SMPTE ST 12-1 (from memory) and OpenTimelineIO's counting."""

from fractions import Fraction

import pytest
from opentimelineio.opentime import RationalTime, to_timecode

from bathyphon.core.timing.clock import Clock

DROP = Clock(Fraction(30000, 1001), 48000, drop_frame=True)


@pytest.mark.parametrize(
    ("rate", "samples"),
    [("24", 2000), ("25", 1920), ("30", 1600), ("50", 960), ("24000/1001", 2002)],
)
def test_samples_of_a_frame_at_48_khz(rate, samples):
    """Source: arithmetic."""
    clock = Clock(Fraction(rate), 48000)
    assert all(clock.sample_of_frame(n) == n * samples for n in (1, 10, 86400))


def test_five_frames_at_30000_1001_take_8008_samples():
    """Source: arithmetic."""
    clock = Clock(Fraction(30000, 1001), 48000)
    assert clock.sample_of_frame(5) == 8008
    assert {clock.sample_of_frame(n + 3) - clock.sample_of_frame(n) for n in range(100)} == {
        4804,
        4805,
    }


@pytest.mark.parametrize(
    ("timecode", "frame"),
    [
        ("00:00:59;29", 1799),
        ("00:01:00;02", 1800),
        ("00:10:00;00", 17982),
        ("01:00:00;00", 107892),
        ("23:59:59;29", 2589407),
    ],
)
def test_drop_frame_at_30000_1001(timecode, frame):
    """Source: SMPTE ST 12-1 (from memory)."""
    assert DROP.timecode_of_frame(frame) == timecode
    assert DROP.frame_of_timecode(timecode) == frame


def test_drop_frame_starts_again_after_24_hours():
    """Source: SMPTE ST 12-1 (from memory)."""
    assert DROP.timecode_of_frame(2589408) == "00:00:00;00"


def test_drop_frame_at_60000_1001():
    """Source: SMPTE ST 12-1 (from memory)."""
    clock = Clock(Fraction(60000, 1001), 48000, drop_frame=True)
    assert clock.frame_of_timecode("01:00:00;00") == 215784


@pytest.mark.parametrize("frame", [*range(1790, 1810), *range(17975, 17990), 107891, 107892])
def test_drop_frame_as_opentimelineio_counts(frame):
    """Source: OpenTimelineIO, ``opentime.to_timecode``."""
    theirs = to_timecode(RationalTime(frame, 30000 / 1001), 30000 / 1001, drop_frame=True)
    assert DROP.timecode_of_frame(frame) == theirs
