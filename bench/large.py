"""Large reels: how time grows with spans, clips, tracks, effects and keyframes.

Run as ``PYTHONPATH=src:tests .venv/bin/python bench/large.py``. What is printed are ratios within
one run: of the time for so many to the time for a quarter of them. 4 is in proportion, 16 would be
the square.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import Any

from bathyphon.core.edits import apply_edit, parse_command
from bathyphon.core.engine.graph import build_graph
from bathyphon.core.engine.live import Live
from bathyphon.core.engine.render import render
from bathyphon.core.reel.parse import read_reel
from reels import Memory, document, effect, noise, treatment

RATE = 8000
MEDIA = Memory(m1=noise(RATE, 3))
Document = dict[str, Any]


def spans(count: int) -> Document:
    """Spans that follow one another on a track."""
    step = RATE // 4
    made: Document = document(RATE, rate=RATE, clip={"length": count * step})
    made["tracks"][0]["treatments"] = [
        {**treatment(k * step, step, effect("muffle")), "id": f"f{k}"} for k in range(count)
    ]
    return made


def clips(count: int) -> Document:
    """Clips in a row, half a second each."""
    made: Document = document(RATE, rate=RATE)
    made["tracks"][0]["clips"] = [
        {"id": f"c{k}", "media": "m1", "start": k * RATE // 2, "length": RATE // 2}
        for k in range(count)
    ]
    return made


def tracks(count: int) -> Document:
    """Tracks of one clip, side by side."""
    made: Document = document(RATE, rate=RATE)
    clip = {"media": "m1", "start": 0, "length": 10 * RATE}
    made["tracks"] = [{"id": f"t{k}", "clips": [{"id": f"c{k}", **clip}]} for k in range(count)]
    return made


def chain(count: int) -> Document:
    """Effects after one another."""
    effects = [effect("muffle") for _ in range(count)]
    made: Document = document(10 * RATE, rate=RATE, treatments=[treatment(0, 10 * RATE, *effects)])
    return made


def render_all(made: Document) -> None:
    """The whole of it."""
    for _ in render(build_graph(read_reel(made), MEDIA), MEDIA):
        pass


def first_piece(made: Document) -> float:
    """Seconds from the laid-out reel to the first piece at its middle."""
    graph = build_graph(read_reel(made), MEDIA)
    playing = Live(RATE).playing(graph, MEDIA)
    return seconds(lambda: playing.piece(graph.length // 2, graph.length // 2 + RATE // 5))


def seconds(work: Callable[[], object]) -> float:
    """How long it takes."""
    began = time.perf_counter()
    work()
    return time.perf_counter() - began


def edit_seconds(made: Document, command: dict[str, Any]) -> float:
    """How long a command takes on a reel that has been read."""
    reel = read_reel(made)
    return min(seconds(lambda: apply_edit(made, reel, parse_command(command))) for _ in range(3))


def keyframes(count: int) -> float:
    """Seconds to put so many keyframes onto as many."""
    points = [{"at": 2 * k * RATE // 25, "value": 300.0 + k % 50} for k in range(count)]
    high = {"high_cut_hz": {"keyframes": points}}
    made = document(RATE, rate=RATE, clip={"length": 2 * count * RATE // 25 + RATE})
    length = 2 * count * RATE // 25 + RATE
    made["tracks"][0]["treatments"] = [treatment(0, length, effect("muffle", **high))]
    keys = [
        {"lane": "treatment:f1/e0/high_cut_hz", "moment": {"frame": 2 * k + 1}, "value": 400.0}
        for k in range(count)
    ]
    return edit_seconds(made, {"kind": "put_keyframes", "keys": keys})


def grown(name: str, make: Callable[[int], Document], most: int) -> None:
    """Print how rendering and the first piece grow from a quarter to all."""
    fewer, all_of_them = make(most // 4), make(most)
    many, few = seconds(lambda: render_all(all_of_them)), seconds(lambda: render_all(fewer))
    print(f"render, {most} {name} to {most // 4}: {many / few:.1f}")
    many, few = first_piece(all_of_them), first_piece(fewer)
    print(f"first piece at the middle, {most} {name} to {most // 4}: {many / few:.1f}")


def main() -> None:
    """Measure and print."""
    render_all(spans(8))
    grown("spans", spans, 4000)
    grown("clips", clips, 8000)
    grown("tracks", tracks, 240)
    grown("effects", chain, 64)
    few, many = keyframes(1250), keyframes(5000)
    print(f"5000 keyframes put onto 5000, to 1250: {many / few:.1f} ({1000 * many:.0f} ms)")
    move = {"kind": "move_clips", "ids": ["c1000"], "frames": 1}
    few, many = edit_seconds(clips(2500), move), edit_seconds(clips(10_000), move)
    print(f"one of 10000 clips moved, to 2500: {many / few:.1f} ({1000 * many:.0f} ms)")


if __name__ == "__main__":
    main()
