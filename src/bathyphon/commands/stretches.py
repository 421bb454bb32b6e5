"""Stretches as they are typed: ``2.5-10``, ``1:02-1:10.5``, ``00:01:00-``."""

from __future__ import annotations

import re

from bathyphon.core.errors import Refused

_MOMENT = re.compile(r"(?:(?:(\d+):)?(\d{1,2}):)?(\d+(?:\.\d+)?)s?")


def read_stretch(text: str, rate: int) -> tuple[int, int | None]:
    """First sample and the one after the last; None for the end.

    Parameters
    ----------
    text : str
        ``FROM-TO`` in seconds, or hours, minutes and seconds; either may be left out.
    rate : int
        Samples a second.

    Raises
    ------
    Refused
        If it is no such stretch.
    """
    first, dash, last = text.replace("–", "-").partition("-")
    start, stop = _sample(first.strip(), rate), _sample(last.strip(), rate)
    wrong = not dash or (first.strip() and start is None) or (last.strip() and stop is None)
    if wrong or (stop is not None and stop <= (start or 0)):
        raise Refused(f"--over {text}: give FROM-TO in seconds, such as 2.5-10 or 1:02-1:10.5")
    return start or 0, stop


def _sample(text: str, rate: int) -> int | None:
    found = _MOMENT.fullmatch(text)
    if not found:
        return None
    hours, minutes, seconds = found.groups()
    return round((int(hours or 0) * 3600 + int(minutes or 0) * 60 + float(seconds)) * rate)
