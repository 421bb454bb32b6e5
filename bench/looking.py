"""What looking costs: how soon spectrograms come, and what meters and analyses take while playing.

Run as ``PYTHONPATH=src:tests .venv/bin/python bench/looking.py``; starts the demo by itself.
"""

from __future__ import annotations

import json
import subprocess
import time
from concurrent.futures import ThreadPoolExecutor
from fractions import Fraction
from functools import partial
from pathlib import Path
from tempfile import NamedTemporaryFile
from typing import Any

import numpy as np
from numpy.typing import NDArray
from playwright.sync_api import Page

from bathyphon.core.analysis.kind import Settings
from bathyphon.core.analysis.kinds import KINDS
from bathyphon.core.analysis.spot import spot_of
from bathyphon.core.analysis.tiles import COARSEST, Tiles
from bathyphon.core.engine.live import Live
from bathyphon.core.listen.judge import survey_of
from bathyphon.core.reel.parse import read_reel
from reels import document, effect, treatment
from running import ROOT, demo

RATE = 48000
LOOP_SECONDS = 10
PLAYED_SECONDS = 8.0
TICKS = 100
"""Of the kernel's clock, in a second."""


class Film:
    """A medium of any length: ten seconds of noise over and over."""

    def __init__(self, seconds: int) -> None:
        rng = np.random.default_rng(1)
        self._loop = (0.1 * rng.standard_normal((2, LOOP_SECONDS * RATE))).astype(np.float32)
        self._length = seconds * RATE

    def digest(self, media: str) -> str:
        return media

    def length(self, media: str) -> int:
        return self._length

    def read(self, media: str, start: int, stop: int) -> NDArray[np.float32]:
        places = np.arange(start, stop)
        sound = self._loop[:, places % self._loop.shape[1]]
        return np.where((places >= 0) & (places < self._length), sound, np.float32(0))

    def response(self, media: str, most: int) -> NDArray[np.float32]:
        return self.read(media, 0, most)


def spectrograms() -> None:
    """How soon a spectrogram comes once the sound is known."""
    for minutes, step, gathered in (
        (5, Fraction(2), False),
        (10, Fraction(2), True),
        (120, Fraction(1, 2), True),
    ):
        seconds = 60 * minutes
        spans = [
            treatment(k * 120 * RATE, 60 * RATE, effect("muffle"), effect("reverb"))
            | {"id": f"f{k}"}
            for k in range(seconds // 120)
        ]
        reel = document(seconds * RATE, treatments=spans)
        survey = survey_of(reel, read_reel(reel), Film(seconds), Live(RATE, 2**30))
        kept: dict[Any, Any] = {}
        tiles = Tiles(spot_of(survey, "mix"), KINDS["spectrum"], Settings(), kept)
        began = time.perf_counter()
        for second in range(seconds):
            survey.playing.output(second)
            if gathered:
                # As the server does for the mix, while it measures the reel.
                tiles.second(second, int(COARSEST))
        known = time.perf_counter() - began
        count = -(-seconds * step // 200)
        began = time.perf_counter()
        look = partial(tiles.tile, step)
        with ThreadPoolExecutor(2) as threads:
            list(threads.map(look, range(int(count))))
        took = time.perf_counter() - began
        how = "gathered while it was heard" if gathered else "from the sound in memory"
        print(
            f"{minutes} minutes, {how}, {count} tiles: {took:.2f} s after the sound is known "
            f"(to know it {known:.1f} s, {known / took:.0f} times as long)"
        )


def meters() -> None:
    """What the meters take of a core."""
    with NamedTemporaryFile(suffix=".json") as file:
        words = ["bench", "--run", "src/player/meter.bench.ts", "--outputJson", file.name]
        subprocess.run(["npx", "vitest", *words], cwd=ROOT / "web", check=True, capture_output=True)
        found = json.load(file)
    mean_ms = found["files"][0]["groups"][0]["benchmarks"][0]["mean"]
    print(f"meters: {mean_ms:.1f} ms for a second of sound, {mean_ms / 10:.1f} % of a core")


def busy(name: str) -> float:
    """Seconds of a processor that all processes of a name have taken."""
    total = 0.0
    for stat in Path("/proc").glob("[0-9]*/stat"):
        try:
            text = stat.read_text()
        except OSError:
            continue
        if name in text[text.index("(") : text.rindex(")")]:
            fields = text[text.rindex(")") + 2 :].split()
            total += (int(fields[11]) + int(fields[12])) / TICKS
    return total


def playing(page: Page, what: str) -> float:
    """Share of a core that the browser takes while it plays."""
    page.keyboard.press("Home")
    page.keyboard.press("Space")
    page.wait_for_timeout(1500)
    before, began = busy("chromium"), time.perf_counter()
    page.wait_for_timeout(1000 * PLAYED_SECONDS)
    share = (busy("chromium") - before) / (time.perf_counter() - began)
    page.keyboard.press("Space")
    print(f"{what}: {100 * share:.1f} % of a core")
    return share


def look(page: Page, kind: str) -> None:
    """Open an analysis of the mix by the search of commands."""
    page.keyboard.press("Escape")
    page.keyboard.press("Control+k")
    page.keyboard.type(f"analyse {kind}")
    page.keyboard.press("Enter")
    page.wait_for_timeout(1500)


def while_playing() -> None:
    """What analyses take of the browser."""
    with demo() as (page, link):
        page.goto(link)
        page.wait_for_selector("[data-track=music]")
        page.wait_for_timeout(4000)
        plain = [playing(page, "playing")]
        for kind in ("spectrogram", "loudness", "stereo"):
            look(page, kind)
        page.wait_for_timeout(4000)
        with_lanes = [playing(page, "playing, three analyses and the spectrum at the playhead")]
        page.reload()
        page.wait_for_selector("[data-track=music]")
        page.wait_for_timeout(4000)
        with_lanes.append(playing(page, "playing, three analyses"))
        for _ in range(3):
            page.get_by_role("button", name="Close the ").first.click()
        plain.append(playing(page, "playing again"))
        more = max(with_lanes) - sum(plain) / len(plain)
        print(f"analyses take {100 * more:.1f} % of a core more")


if __name__ == "__main__":
    spectrograms()
    meters()
    while_playing()
