"""Engine speed as times real time, and as ratios to a reference library in the same run.

Run as ``PYTHONPATH=src .venv/bin/python bench/engine.py``.
"""

from __future__ import annotations

import statistics
import sys
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pedalboard

from bathyphon.core.engine.graph import build_graph
from bathyphon.core.engine.render import render
from bathyphon.core.reel.parse import read_reel
from bathyphon.formats.reel_file import FolderMedia, load_reel
from bathyphon.memory import keep_memory

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT / "tests"))
from reels import Memory, document, effect, keyframes, noise, treatment  # noqa: E402

RATE = 48000
SECONDS = 60
RUNS = 5


def median_seconds(work: Callable[[], object]) -> float:
    """Median of several runs after a warm-up."""
    work()
    spent = []
    for _ in range(RUNS):
        began = time.perf_counter()
        work()
        spent.append(time.perf_counter() - began)
    return statistics.median(spent)


BANDS = [{"type": "peak", "freq_hz": hz, "gain_db": 3} for hz in (90, 400, 2000, 8000)]


def rendering(doc: dict, media: Memory, threads: int = 1) -> Callable[[], object]:
    """A whole render of a document."""
    graph = build_graph(read_reel(doc), media)

    def work() -> None:
        for _ in render(graph, media, threads=threads):
            pass

    return work


def taking_turns(first: Callable[[], object], second: Callable[[], object]) -> list[float]:
    """Ratios of pairs of runs, one right after the other: a busy host slows both alike."""
    first()
    second()
    ratios = []
    for _ in range(2 * RUNS + 1):
        began = time.perf_counter()
        first()
        between = time.perf_counter()
        second()
        ratios.append((between - began) / (time.perf_counter() - between))
    return sorted(ratios)


def main() -> None:
    """Print one table."""
    keep_memory()
    n = SECONDS * RATE
    x = noise(n)
    media = Memory(m1=x, quiet=np.zeros_like(x))
    bare = median_seconds(rendering(document(n), media))

    def span(*effects: dict, **more: object) -> float:
        doc = document(n, treatments=[treatment(0, n, *effects, ring_out="none")], **more)
        return median_seconds(rendering(doc, media)) - bare

    moving = keyframes((0, 300.0), (n, 6000.0))
    theirs = {
        "low-pass": median_seconds(lambda: pedalboard.LowpassFilter(620)(x, RATE)),
        "delay": median_seconds(lambda: pedalboard.Delay(0.3, 0.5, 0.5)(x, RATE)),
    }
    rows = [
        ("gain", span(effect("gain")), None),
        ("muffle, static", span(effect("muffle")), "low-pass"),
        ("muffle, keyframed", span(effect("muffle", high_cut_hz=moving)), "low-pass"),
        ("echo, static", span(effect("echo")), "delay"),
        ("echo, keyframed time", span(effect("echo", time_ms=keyframes((0, 200), (n, 400)))),
         "delay"),
        ("muffle + echo", span(effect("muffle"), effect("echo")), None),
    ]  # fmt: skip
    print(f"{'stereo, 48 kHz, one core':34}{'× real time':>12}{'time ÷ reference':>20}")
    print(f"{'bare clip':34}{SECONDS / bare:12.0f}")
    for name, spent, reference in rows:
        ratio = f"{spent / theirs[reference]:.2f} ({reference})" if reference else ""
        print(f"{name:34}{SECONDS / max(spent, 1e-6):12.0f}{ratio:>20}")
    quiet = document(n, treatments=[treatment(0, n, effect("muffle"), effect("echo"))])
    quiet["media"].append({"id": "quiet", "path": "q"})
    loud_spent = median_seconds(rendering(quiet, media))
    quiet["tracks"][0]["clips"][0]["media"] = "quiet"
    print(f"silence ÷ sound: {median_seconds(rendering(quiet, media)) / loud_spent:.2f}")

    reel_path = ROOT / "demo" / "ninth_sump" / "reel.json"
    reel = load_reel(reel_path)
    demo_media = FolderMedia(reel, reel_path.parent)
    graph = build_graph(reel, demo_media)
    spent = {}
    for threads in (1, 2):
        spent[threads] = median_seconds(
            lambda t=threads: [None for _ in render(graph, demo_media, threads=t)]
        )
        print(
            f"demo reel, {threads} thread{'s' if threads > 1 else ' '}: "
            f"{graph.length / RATE / spent[threads]:.0f} × real time"
        )
    chain = [
        {"id": kind, **effect(kind, **params)}
        for kind, params in (("eq", {"bands": BANDS}), ("reverb", {}), ("echo", {}), ("muffle", {}))
    ]
    clips = document(n, clip={"treatment": {"effects": chain}})
    second = dict(clips["tracks"][0], id="t2")
    second["clips"] = [dict(second["clips"][0], id="c2")]
    clips["tracks"].append(second)
    one, two = rendering(clips, media, 1), rendering(clips, media, 2)
    print(f"full chain within the engine: {2 * SECONDS / median_seconds(one):.0f} × real time")
    ratios = taking_turns(one, two)
    print(
        "two clips with it, one thread ÷ two threads: "
        f"median {statistics.median(ratios):.2f} of {len(ratios)} pairs of runs, "
        f"{ratios[0]:.2f} to {ratios[-1]:.2f}"
    )


if __name__ == "__main__":
    main()
