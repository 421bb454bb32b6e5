"""Writes the values against which the front end's clock is tested, from the core's clock."""

from __future__ import annotations

import json
from fractions import Fraction
from pathlib import Path

from bathyphon.core.timing.clock import Clock

OUT = Path(__file__).parents[1] / "web" / "src" / "time" / "clock.fixtures.json"
FRAMES = [0, 1, 2, 3, 5, 29, 30, 59, 899, 900, 1799, 1800, 1801, 17981, 17982, 53946, 107892]


def fixtures() -> list[dict[str, object]]:
    """Frames with their first samples and timecodes, for many rates."""
    rates = ["24/1", "25/1", "30/1", "50/1", "24000/1001", "30000/1001", "60000/1001"]
    kinds = [(r, s, False) for r in rates for s in (44100, 48000, 96000)]
    kinds += [("30000/1001", 48000, True), ("60000/1001", 44100, True)]
    found = []
    for rate, sample_rate, drop in kinds:
        clock = Clock(Fraction(rate), sample_rate, drop)
        rows = [[f, clock.sample_of_frame(f), clock.timecode_of_frame(f)] for f in FRAMES]
        found.append({"rate": rate, "sampleRate": sample_rate, "drop": drop, "rows": rows})
    return found


def text() -> str:
    """The file's content."""
    return json.dumps(fixtures(), separators=(",", ":")) + "\n"


if __name__ == "__main__":
    OUT.write_text(text())
