"""Stretches of a ring: delay lines whose length is a power of two."""

from __future__ import annotations

from numba import njit

from bathyphon.core.curves import Floats


@njit(cache=True, nogil=True)
def take(line: Floats, first: int, row: Floats) -> None:  # pragma: no cover - compiled
    """Copy a stretch out of a ring, from any place on."""
    mask = line.size - 1
    at = first & mask
    head = min(row.size, line.size - at)
    row[:head] = line[at : at + head]
    row[head:] = line[: row.size - head]


@njit(cache=True, nogil=True)
def put(line: Floats, first: int, row: Floats) -> None:  # pragma: no cover - compiled
    """Copy a stretch into a ring."""
    mask = line.size - 1
    at = first & mask
    head = min(row.size, line.size - at)
    line[at : at + head] = row[:head]
    line[: row.size - head] = row[head:]
