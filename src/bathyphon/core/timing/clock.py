"""Exact time: samples, frames and timecode.

Time is an integer count of samples. Frames and timecode are views of it, computed with exact
rationals, so nothing drifts at rates such as 30000/1001.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property
from math import ceil

from bathyphon.core.errors import Refused

_TIMECODE = re.compile(r"(\d{1,3}):([0-5]\d):([0-5]\d)([:;])(\d{2,3})")
_RATE = re.compile(r"(\d{1,6})(?:/(\d{1,6}))?")


@dataclass(frozen=True)
class Clock:
    """Converts between samples, frames and timecode for one reel.

    Parameters
    ----------
    frame_rate : Fraction
        Frames a second, for example ``Fraction(30000, 1001)``.
    sample_rate : int
        Samples a second.
    drop_frame : bool
        Whether timecode skips numbers as SMPTE ST 12-1 describes (29.97 and 59.94 only).
    """

    frame_rate: Fraction
    sample_rate: int
    drop_frame: bool = False

    def __post_init__(self) -> None:
        if self.frame_rate <= 0 or self.sample_rate <= 0:
            raise Refused("frame rate and sample rate must be above zero")
        if self.drop_frame and self.frame_rate not in (
            Fraction(30000, 1001),
            Fraction(60000, 1001),
        ):
            raise Refused("drop-frame timecode exists only at 30000/1001 and 60000/1001")

    @cached_property
    def _ratio(self) -> tuple[int, int]:
        """Frames to samples as whole numbers, which are much faster than fractions."""
        ratio = self.frame_rate / self.sample_rate
        return ratio.numerator, ratio.denominator

    @property
    def nominal(self) -> int:
        """Frames that one second of timecode counts (30 for 30000/1001)."""
        return ceil(self.frame_rate)

    @property
    def dropped(self) -> int:
        """Frame numbers skipped each minute that is not a tenth."""
        return self.nominal // 15 if self.drop_frame else 0

    def sample_of_frame(self, frame: int) -> int:
        """First sample of a frame: ``ceil(frame * rate * den / num)``.

        Examples
        --------
        >>> Clock(parse_rate('25/1'), 48000).sample_of_frame(100)
        192000
        """
        num, den = self._ratio
        return -(-frame * den // num)

    def frame_of_sample(self, sample: int) -> int:
        """Frame that is shown while a sample sounds."""
        num, den = self._ratio
        return sample * num // den

    def on_frame(self, sample: int) -> bool:
        """Whether a sample is the first of a frame."""
        return self.sample_of_frame(self.frame_of_sample(sample)) == sample

    def timecode_of_frame(self, frame: int) -> str:
        """SMPTE timecode of a frame counted from 00:00:00:00; wraps after 24 hours.

        Examples
        --------
        >>> Clock(parse_rate('25/1'), 48000).timecode_of_frame(1530)
        '00:01:01:05'
        """
        mark = ";" if self.drop_frame else ":"
        number = frame % self._frames_in(24 * 60)
        if self.dropped:
            tens, rest = divmod(number, self._frames_in(10))
            number += 9 * self.dropped * tens
            minute = self.nominal * 60
            if rest >= minute:
                number += self.dropped * (1 + (rest - minute) // (minute - self.dropped))
        seconds, frames = divmod(number, self.nominal)
        width = len(str(self.nominal - 1)) if self.nominal > 100 else 2
        return (
            f"{seconds // 3600:02d}:{seconds // 60 % 60:02d}:{seconds % 60:02d}"
            f"{mark}{frames:0{width}d}"
        )

    def frame_of_timecode(self, timecode: str) -> int:
        """Frame that a timecode names.

        Raises
        ------
        Refused
            If the text is no timecode at this frame rate, or names a skipped number.
        """
        found = _TIMECODE.fullmatch(timecode.strip())
        if not found:
            raise Refused(f"“{timecode}” is not a timecode; write it as 01:02:03:04")
        hours, minutes, seconds, frames = (int(found[k]) for k in (1, 2, 3, 5))
        if frames >= self.nominal:
            raise Refused(f"“{timecode}” has frame {frames}; the last one is {self.nominal - 1}")
        if self.dropped and minutes % 10 and seconds == 0 and frames < self.dropped:
            raise Refused(
                f"“{timecode}” is skipped in drop-frame counting; "
                f"the next is frame {self.dropped:02d}"
            )
        total_minutes = hours * 60 + minutes
        return (
            (total_minutes * 60 + seconds) * self.nominal
            + frames
            - self.dropped * (total_minutes - total_minutes // 10)
        )

    def timecode_of_sample(self, sample: int, start: str = "00:00:00:00") -> str:
        """Timecode of the frame at a sample of a reel that starts at timecode ``start``."""
        offset = self.frame_of_timecode(start)
        return self.timecode_of_frame(offset + self.frame_of_sample(sample))

    def sample_of_timecode(self, timecode: str, start: str = "00:00:00:00") -> int:
        """Sample at which a timecode begins, in a reel that starts at timecode ``start``."""
        frame = self.frame_of_timecode(timecode) - self.frame_of_timecode(start)
        return self.sample_of_frame(frame)

    def move_by_frames(self, sample: int, frames: int) -> int:
        """A sample moved by whole frames; one on a frame boundary stays on a boundary."""
        frame = self.frame_of_sample(sample)
        rest = sample - self.sample_of_frame(frame)
        return self.sample_of_frame(frame + frames) + rest

    def _frames_in(self, minutes: int) -> int:
        return minutes * 60 * self.nominal - self.dropped * (minutes - minutes // 10)


def parse_rate(text: str) -> Fraction:
    """Read a rate such as ``25/1``, ``25`` or ``30000/1001``.

    Examples
    --------
    >>> parse_rate('24000/1001')
    Fraction(24000, 1001)
    """
    found = _RATE.fullmatch(text.strip())
    if not found or int(found[1]) == 0 or int(found[2] or 1) == 0:
        raise Refused(f"“{text}” is not a frame rate; write it as 25/1 or 30000/1001")
    return Fraction(int(found[1]), int(found[2] or 1))
