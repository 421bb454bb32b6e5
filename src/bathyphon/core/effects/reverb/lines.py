"""The lines of the room: how long each takes."""

from __future__ import annotations

import numpy as np

# Lengths at size 100 %, in ms: spread evenly in logarithm, with no common measure. Short ones make
# echoes dense early, all together are long enough that late tails do not ring.
LENGTHS_MS = np.array(
    [
        11.1, 14.8, 19.4, 25.5, 35.1, 45.9, 61.1, 82.3,
        12.9, 16.7, 22.9, 30.5, 40.1, 53.0, 71.1, 95.2,
    ]
)  # fmt: skip
