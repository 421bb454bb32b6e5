"""Tests in a browser, on a machine that is not always all ours.

A virtual machine gets less than its processors while its host has other work: Linux counts that as
*steal* (``man 5 proc``, ``/proc/stat``). Sound that has to come in time does not come in time then,
whatever the program does, and what waits for something may wait in vain. A test that fails while
time was withheld has shown nothing: it is tried again once the machine is whole. One that fails
without that has failed.
"""

from __future__ import annotations

import time
from pathlib import Path

import pytest
from _pytest.runner import runtestprotocol

STAT = Path("/proc/stat")
TRIES = 3
LITTLE = 0.01
"""A share that no test notices."""
MUCH = 0.03
"""A share with which a test that fails each time cannot be judged."""
CALM_S, MOST_S = 8, 120
IN_ALL_S = 600
"""For so long all tests together wait for a machine that is whole."""


def ticks() -> tuple[int, int]:
    """What the host has withheld so far, and all there was, in ticks of all processors."""
    _, *fields = STAT.read_text().split("\n", 1)[0].split()
    counted = [int(field) for field in fields[:8]]
    return counted[7], sum(counted)


class Withheld:
    """The share of the machine that was withheld since this was made."""

    def __init__(self) -> None:
        self._stolen, self._all = ticks()

    def share(self) -> float:
        stolen, all_of_it = ticks()
        return (stolen - self._stolen) / max(1, all_of_it - self._all)


class Patience:
    """What is left of the time for waiting."""

    left = float(IN_ALL_S)

    def wait(self) -> None:
        """Wait until nothing has been withheld for some seconds; not for ever."""
        began = time.monotonic()
        while time.monotonic() - began < min(MOST_S, self.left):
            seen = Withheld()
            time.sleep(CALM_S)
            if seen.share() < LITTLE:
                break
        self.left -= time.monotonic() - began


patience = Patience()


def listen(
    item: pytest.Item, nextitem: pytest.Item | None, *, excused: bool = True
) -> list[pytest.TestReport]:
    """Run a test, and again while it fails on a machine that is not whole.

    Parameters
    ----------
    item, nextitem : pytest.Item
        The test, and the one after it.
    excused : bool
        Whether it keeps to real time, so that it may not be judged at all.

    Returns
    -------
    list of pytest.TestReport
        Those of the last try. If it is excused and has failed in each one, with much withheld each
        time, it is not judged: that is reported as skipped, with the shares.
    """
    shares: list[float] = []
    while True:
        seen = Withheld()
        reports = runtestprotocol(item, log=False, nextitem=nextitem)
        failed = [report for report in reports if report.failed]
        shares.append(seen.share())
        if not failed or shares[-1] < LITTLE:
            return reports
        if len(shares) == TRIES:
            break
        patience.wait()
    told = ", ".join(f"{100 * share:.0f} %" for share in shares)
    why = f"{TRIES} tries, in which the host withheld {told} of the machine"
    for report in failed:
        report.sections.append(("a disturbed machine", why))
        if excused and min(shares) >= MUCH:
            report.outcome = "skipped"
            report.longrepr = (str(item.path), item.location[1] or 0, f"Not judged: {why}")
    return reports
