"""By how many samples the tools answer late; plain numbers, known without importing the tools."""

from __future__ import annotations

UP_TAPS, DOWN_TAPS, FACTOR = 161, 159, 4
OVERSAMPLING = ((UP_TAPS - 1) // 2 + (DOWN_TAPS - 1) // 2 + 1) // FACTOR
"""Up and down again. Both filters together, and the sample that the bending between them is late,
make whole samples."""

HALF_TAPS, FINE_TAPS = 64, 12
PEAKS = HALF_TAPS // 2 + FINE_TAPS // 4
"""From a sample's arrival until the peaks around it are known; a short filter reaches half its
taps."""

CONVOLUTION = 1024
"""Samples of the shorter of its two partitions."""
