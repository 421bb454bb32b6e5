"""A reel of 1,000 clips, 300 treatments and 20,000 keyframes: opened, moved about in, edited.

Run as ``PYTHONPATH=src .venv/bin/python bench/editing.py``; starts the demo by itself.
"""

from __future__ import annotations

import re
import subprocess
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

from playwright.sync_api import Page

from running import demo

TRACKS, CLIPS, TREATMENTS, KEYFRAMES = 10, 1000, 300, 20000
RATE, SECONDS = 48000, 3600
EDITS = 500
"""A run of edits."""
RUNS = 1

SEND = """async ([path, body]) => {
  const token = /csrftoken=([^;]+)/.exec(document.cookie)[1];
  const answer = await fetch(path, {method: 'POST', body: JSON.stringify(body),
    headers: {'X-CSRFToken': token, 'Content-Type': 'application/json'}});
  if (!answer.ok) throw new Error(await answer.text());
  return answer.json();
}"""
EDIT = """async ([reel, commands]) => {
  const token = /csrftoken=([^;]+)/.exec(document.cookie)[1];
  let {revision} = await (await fetch(`/api/reels/${reel}`)).json();
  const times = [];
  for (const command of commands) {
    const began = performance.now();
    const answer = await fetch(`/api/reels/${reel}/edits`, {method: 'POST',
      headers: {'X-CSRFToken': token, 'Content-Type': 'application/json'},
      body: JSON.stringify({edit_id: crypto.randomUUID(), base: revision, commands: [command]})});
    const change = await answer.json();
    if (!answer.ok) throw new Error(JSON.stringify(change));
    times.push(performance.now() - began);
    revision = change.revision;
  }
  return times;
}"""
COUNT = """() => {
  window.__frames = [];
  const tick = (t) => { window.__frames.push(t); window.__ticking = requestAnimationFrame(tick); };
  window.__ticking = requestAnimationFrame(tick);
}"""


def track(number: int, medium: str) -> dict[str, Any]:
    """One of the tracks, with its share of all."""
    clips, spans = CLIPS // TRACKS, TREATMENTS // TRACKS
    keys = KEYFRAMES // TREATMENTS
    step, span = SECONDS * RATE // clips, SECONDS * RATE // spans
    moving = [
        {"at": k * (span - RATE) // keys, "value": 200.0 + k * 37 % 50 * 100} for k in range(keys)
    ]
    return {
        "id": f"t{number}",
        "name": f"Track {number + 1}",
        "clips": [
            {"id": f"c{number}-{i}", "media": medium, "start": i * step, "length": step - RATE // 2}
            for i in range(clips)
        ],
        "treatments": [
            {
                "id": f"f{number}-{i}", "name": "Muffle", "start": i * span, "length": span - RATE,
                "ramp_in": {"length": 5760}, "ramp_out": {"length": 5760},
                "effects": [
                    {"id": "e", "kind": "muffle", "params": {"high_cut_hz": {"keyframes": moving}}}
                ],
            }
            for i in range(spans)
        ],
    }  # fmt: skip


def make(page: Page, demo: str) -> str:
    """Make the reel out of the demo's score; returns its id."""
    document = page.evaluate(f"async () => (await fetch('/api/reels/{demo}')).json()")["document"]
    medium = document["media"][-1]
    reel: str = page.evaluate(SEND, ["/api/reels", {"name": "Many", "frame_rate": "25/1"}])["id"]
    commands = [
        {"kind": "add_medium", "medium": medium},
        *({"kind": "add_track", "track": track(n, medium["id"])} for n in range(TRACKS)),
    ]
    page.evaluate(EDIT, [reel, commands])
    return reel


def frames(page: Page, what: str, act: Callable[[], None]) -> None:
    """Print how many frames a second are drawn while something is done by hand."""
    page.evaluate(COUNT)
    act()
    found = page.evaluate(
        "() => { cancelAnimationFrame(window.__ticking); return window.__frames; }"
    )
    steps = sorted(b - a for a, b in zip(found, found[1:], strict=False))
    rate = 1000 * len(steps) / sum(steps)
    print(f"{what}: {rate:.0f} frames a second, 95th {steps[int(len(steps) * 0.95)]:.0f} ms")


def memory(pid: int) -> float:
    """Resident memory of a process in MiB."""
    text = Path(f"/proc/{pid}/status").read_text()
    found = re.search(r"VmRSS:\s+(\d+)", text)
    return int(found[1]) / 1024 if found else 0.0


def server_pid() -> int:
    """The process that answers."""
    done = subprocess.run(
        ["pgrep", "-f", "uvicorn bathyphon|bathyphon.server.asgi"], capture_output=True, text=True,
        check=True,
    )  # fmt: skip
    return int(done.stdout.split()[0])


def hands_on(page: Page) -> None:
    """Zoom, scroll and drag."""
    box = page.locator(".lane").first.bounding_box()
    assert box
    x, y = box["x"] + box["width"] / 2, box["y"] + 20

    def wheel(dx: float, dy: float, key: str = "") -> None:
        page.mouse.move(x, y)
        if key:
            page.keyboard.down(key)
        for _ in range(60):
            page.mouse.wheel(dx, dy)
            page.wait_for_timeout(16)
        if key:
            page.keyboard.up(key)

    frames(page, "zooming in", lambda: wheel(0, -40, "Control"))
    frames(page, "scrolling", lambda: wheel(60, 0))
    frames(page, "zooming out", lambda: wheel(0, 40, "Control"))
    for _ in range(12):
        page.keyboard.press("+")
    page.wait_for_timeout(800)
    bar = page.locator(".clip [data-grip=clip-move]").nth(3).bounding_box()
    assert bar

    def drag() -> None:
        page.mouse.move(bar["x"] + 20, bar["y"] + 8)
        page.mouse.down()
        for k in range(60):
            page.mouse.move(bar["x"] + 20 + k, bar["y"] + 8)
            page.wait_for_timeout(16)
        page.mouse.up()

    frames(page, "dragging a clip", drag)


def main() -> None:
    """Measure and print."""
    with demo() as (page, link):
        base = "/".join(link.split("/")[:3])
        page.goto(link)
        page.wait_for_selector(".track")
        page.wait_for_timeout(2000)
        reel = make(page, link.rsplit("/", 1)[1])
        for turn in ("first", "again"):
            began = time.perf_counter()
            page.goto(f"{base}/reels/{reel}")
            page.wait_for_selector(".clip")
            page.evaluate("() => new Promise(requestAnimationFrame)")
            print(f"opened, {turn}: {time.perf_counter() - began:.2f} s")
            page.wait_for_timeout(2500)
        hands_on(page)
        # Acknowledgement is timed without a window that draws beside it.
        page.goto(f"{base}/")
        lane = "treatment:f3-4/e/high_cut_hz"
        move = [{"kind": "move_clips", "ids": ["c5-7"], "frames": (-1) ** k} for k in range(60)]
        put = [
            {"kind": "put_keyframes",
             "keys": [{"lane": lane, "moment": {"frame": 13000 + k % 60}, "value": 300.0 + k}]}
            for k in range(EDITS)
        ]  # fmt: skip
        for name, commands in (("a clip moved", move), ("a keyframe put", put[:60])):
            times = sorted(page.evaluate(EDIT, [reel, commands]))
            print(f"{name}: acknowledged in {times[30]:.0f} ms, 95th {times[57]:.0f} ms")
        page.goto(f"{base}/reels/{reel}")
        page.wait_for_selector(".clip")
        page.wait_for_timeout(2000)
        growth(page, reel, put)


def growth(page: Page, reel: str, commands: list[dict[str, Any]]) -> None:
    """Print the memory of server and window, between runs of the same edits.

    The server's stores (sound, curves, laid-out tracks) fill up to their bounds at first, so
    what matters is whether later runs add to it.
    """
    pid = server_pid()
    heap = "() => { gc(); return performance.memory.usedJSHeapSize / 2 ** 20; }"
    for done in range(0, RUNS * EDITS + 1, EDITS):
        if done:
            page.evaluate(EDIT, [reel, commands])
            page.wait_for_timeout(2000)
        print(f"after {done} edits: server {memory(pid):.0f} MiB, "
              f"window {page.evaluate(heap):.0f} MiB")  # fmt: skip


if __name__ == "__main__":
    main()
