"""Processes that are kept running: what ends by itself or is killed is started again."""

from __future__ import annotations

import signal
import subprocess
import time
from collections.abc import Mapping, Sequence
from typing import Protocol

from steps import ROOT, say

LOOK_SECONDS = 0.3
FIRST_PAUSE, LONGEST_PAUSE = 1.0, 30.0
"""Seconds until it is started again; doubled each time that it ends soon after."""
WELL_SECONDS = 60.0
"""What has run for so long has started well: its next pause is the first one again."""
STOP_SECONDS = 10.0


class Kept:
    """A process that is to run.

    Parameters
    ----------
    name : str
        What it is called when it is said that it has ended: “The worker”.
    command : list of str
    env : dict
    """

    def __init__(self, name: str, command: Sequence[str], env: Mapping[str, str]) -> None:
        self.name = name
        # Whoever kills us does not leave it behind.
        self._command = ["setpriv", "--pdeathsig", "TERM", *command]
        self._env = dict(env)
        self._pause = FIRST_PAUSE
        self._again: float | None = None
        self._start()

    @property
    def ended(self) -> int | None:
        """How it has ended; none while it runs."""
        return self.process.poll()

    def look(self, now: float) -> None:
        """Start it again after a pause, if it has ended."""
        code = self.ended
        if code is None:
            return
        if self._again is None:
            if now - self._began > WELL_SECONDS:
                self._pause = FIRST_PAUSE
            self._again = now + self._pause
            say(f"{self.name} {_how(code)}; restarting in {self._pause:.0f} s.")
            self._pause = min(LONGEST_PAUSE, 2 * self._pause)
        elif now >= self._again:
            self._start()

    def _start(self) -> None:
        self._again = None
        self._began = time.monotonic()
        self.process = subprocess.Popen(
            self._command, env=self._env, cwd=ROOT, start_new_session=True
        )


class Watched(Protocol):
    """What is looked at again and again, and mends itself then."""

    def look(self, now: float) -> None:
        """Start again what has ended."""


def keep(kept: Sequence[Watched]) -> int:
    """Keep processes running until somebody interrupts."""
    try:
        while True:
            for one in kept:
                one.look(time.monotonic())
            time.sleep(LOOK_SECONDS)
    except KeyboardInterrupt:
        say("\nStopping …")
        return 0


def stop(kept: Sequence[Kept]) -> None:
    """Let all of them end, and end those that do not."""
    running = [one.process for one in kept if one.ended is None]
    for process in running:
        process.send_signal(signal.SIGTERM)
    for process in running:
        try:
            process.wait(timeout=STOP_SECONDS)
        except subprocess.TimeoutExpired:
            process.kill()


def _how(code: int) -> str:
    if code < 0:
        return f"was killed by {signal.Signals(-code).name}"
    return f"stopped with code {code} (see above)"
