"""Made sounds, and what the core's meters find in them.

``PYTHONPATH=src:tests python tests/core/measure/meters.py`` writes ``meter.json`` anew, which the
meters of the front end are tried on.
"""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.measure.levels import levels_of
from bathyphon.core.measure.tally import tally

PATH = Path(__file__).with_name("meter.json")
CASES: list[dict[str, Any]] = [
    {"rate": 48000, "seconds": 5, "tones": [[1000, -23, -23]], "swell": 0},
    {"rate": 44100, "seconds": 5, "tones": [[1000, -33, -33]], "swell": 0},
    {"rate": 48000, "seconds": 8, "tones": [[220, -20, -26], [3000, -30, -24]], "swell": 0.4},
    {"rate": 48000, "seconds": 4, "tones": [[12000.5, -6, -9]], "swell": 0.3},
    {"rate": 96000, "seconds": 4, "tones": [[60, -12, -12], [9000, -20, -40]], "swell": 1.0},
]


def made(case: dict[str, Any]) -> NDArray[np.float32]:
    """Tones of (Hz, dBFS left, dBFS right); the right one turned a little, swelling in Hz."""
    t = np.arange(case["rate"] * case["seconds"]) / case["rate"]
    swell = 0.5 + 0.5 * np.cos(2 * np.pi * case["swell"] * t)
    sides = np.zeros((2, t.size))
    for hz, left, right in case["tones"]:
        sides[0] += 10 ** (left / 20) * np.sin(2 * np.pi * hz * t)
        sides[1] += 10 ** (right / 20) * np.sin(2 * np.pi * hz * t + 0.4)
    return (sides * swell).astype(np.float32)


def found(case: dict[str, Any]) -> dict[str, float | None]:
    """What the core finds."""
    levels = levels_of(tally(made(case), case["rate"]))
    return {
        "integrated": levels.loudness,
        "range": levels.range,
        "truePeak": levels.true_peak,
        "samplePeak": levels.peak,
    }


if __name__ == "__main__":
    cases = [{**case, "found": found(case)} for case in CASES]
    PATH.write_text(json.dumps(cases, indent=1) + "\n")
