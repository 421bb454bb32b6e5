"""How the process keeps its memory."""

from __future__ import annotations

import ctypes
import gc

# Of glibc's malloc.h.
M_TRIM_THRESHOLD, M_MMAP_THRESHOLD, M_ARENA_MAX = -1, -3, -8
KEPT_BYTES = 64 << 20
LARGE_BYTES = 32 << 20
HEAPS = 2
YOUNG_OBJECTS = 100_000
"""How many new objects make Python look for what has gone: importing alone makes millions."""


def keep_memory() -> None:
    """Reuse the memory of blocks of sound instead of giving it back after each.

    By default everything above 128 KiB is asked of the system anew, page by page: that took longer
    than most effects, and threads wait for each other in it. Where the library is another one,
    nothing changes. Nor does each thread get a heap of its own, as it would: what one thread gives
    back the next one could not use, and a server held a third more than it needed. Python looks for
    cycles of what has gone less often, too.
    """
    gc.set_threshold(YOUNG_OBJECTS, 20, 20)
    mallopt = getattr(ctypes.CDLL(None), "mallopt", None)
    if mallopt is not None:
        mallopt(M_MMAP_THRESHOLD, LARGE_BYTES)
        mallopt(M_TRIM_THRESHOLD, KEPT_BYTES)
        mallopt(M_ARENA_MAX, HEAPS)
