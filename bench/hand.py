"""From hand to ear: how soon each kind of gesture is heard, in the browser, while the reel plays.

Run as ``PYTHONPATH=src .venv/bin/python bench/hand.py [MINUTES]``; starts the demo by itself.
Steady noise of half an hour under a full chain plays from its twentieth minute; the hand steps
between two places and does not rest between them for longer than half a second. Each row:
milliseconds from the input event to the sample in the audio graph. With MINUTES, a hand then turns
for so long at every frame, and seeks to another place of the half hour every ten seconds.
"""

from __future__ import annotations

import io
import sys
import time
import uuid
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
import soundfile
from playwright.sync_api import Page

from running import demo

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT / "tests" / "browser"))
from hands import at_every_frame, followed, latencies, sine, stepping, take  # noqa: E402

RATE = 48000
STEPS = 20
SECONDS = 8.0
CHAIN = [
    ("eq", {"bands": [{"type": "peak", "freq_hz": 800, "gain_db": 3}]}),
    ("muffle", {"high_cut_hz": 6000}),
    ("reverb", {"mix": 20}),
    ("echo", {"mix": 15}),
    ("gain", {"level_db": -6}),
]
Place = tuple[float, float]


class Reel:
    """A reel of noise, made through the page's own session."""

    def __init__(self, page: Page) -> None:
        self._page = page
        self._origin = page.evaluate("location.origin")
        page.request.get(f"{self._origin}/api/account")
        self._token = next(c["value"] for c in page.context.cookies() if c["name"] == "csrftoken")
        rng = np.random.default_rng(5)
        noise = (0.1 * rng.standard_normal((60 * RATE, 2))).astype(np.float32)
        file = io.BytesIO()
        soundfile.write(file, noise, RATE, format="WAV", subtype="FLOAT")
        sent = self._post(
            "/api/media",
            multipart={"file": {"name": "noise.wav", "mimeType": "audio/wav",
                                "buffer": file.getvalue()}},
        )  # fmt: skip
        while self._get(f"/api/media/{sent['id']}")["state"] != "ready":
            page.wait_for_timeout(200)
        self.id = self._post("/api/reels", data={"name": "Noise"})["id"]
        clips = [
            {"kind": "add_clip", "track": "t",
             "clip": {"id": f"c{k}", "media": sent["id"], "name": f"noise {k}",
                      "start": 60 * k * RATE, "length": 60 * RATE}}
            for k in range(30)
        ]  # fmt: skip
        effects = [{"id": f"e{i}", "kind": k, "params": p} for i, (k, p) in enumerate(CHAIN)]
        self.edit(
            {"kind": "add_medium", "medium": {"id": sent["id"], "path": "noise.wav"}},
            {"kind": "add_track", "track": {"id": "t", "name": "Noise"}},
            *clips,
            {"kind": "add_treatment", "track": "t", "id": "f", "name": "Full",
             "start": {"sample": 0}, "end": {"sample": 1800 * RATE}, "effects": effects},
            {"kind": "put_keyframes",
             "keys": [{"lane": "track:t/gain_db", "moment": {"sample": 1195 * RATE}, "value": 0},
                      {"lane": "track:t/gain_db", "moment": {"sample": 1400 * RATE}, "value": 0}]},
        )  # fmt: skip

    def edit(self, *commands: dict[str, Any]) -> None:
        """One edit of the reel."""
        base = self._get(f"/api/reels/{self.id}")["revision"]
        data = {"edit_id": str(uuid.uuid4()), "base": base, "commands": list(commands)}
        self._post(f"/api/reels/{self.id}/edits", data=data)

    def _get(self, path: str) -> Any:
        return self._page.request.get(self._origin + path).json()

    def _post(self, path: str, **what: Any) -> Any:
        answer = self._page.request.post(
            self._origin + path, headers={"X-CSRFToken": self._token}, **what
        )
        assert answer.ok, answer.text()
        return answer.json()


def middle(page: Page, selector: str) -> Place:
    """The middle of the first element that a selector finds."""
    found = page.locator(selector).first
    found.scroll_into_view_if_needed()
    page.wait_for_timeout(400)
    box = found.bounding_box()
    assert box
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def card(page: Page, name: str) -> None:
    """Open an effect's card."""
    page.locator("[data-treatment=f]").press("Enter")
    button = page.get_by_role("region", name=name).get_by_role("button").nth(1)
    if button.get_attribute("aria-expanded") == "false":
        button.click()
    page.wait_for_timeout(400)


def gestures(page: Page) -> dict[str, tuple[Callable[[], Place], Place, Place, bool]]:
    """By name: where to take hold, two places relative to that, whether only the highs tell."""

    def slider(name: str) -> Callable[[], Place]:
        def find() -> Place:
            card(page, name)
            return middle(page, f"[aria-label='{name}'] [role=slider]")

        return find

    def grip() -> Place:
        card(page, "Muffle")
        return middle(page, ".effect-drawing .grip .knob")

    def of_clip(grip: str) -> Callable[[], Place]:
        def find() -> Place:
            page.locator("[data-clip=c20]").press("Enter")
            return middle(page, f"[data-clip=c20] [data-grip={grip}]")

        return find

    def pitch() -> Place:
        of_clip("clip-end")()
        head = page.get_by_role("button", name="Speed and pitch")
        if head.get_attribute("aria-expanded") == "false":
            head.click()
            page.wait_for_timeout(400)
        return middle(page, "[role=slider][aria-label='Pitch']")

    def clip_level() -> Place:
        of_clip("clip-end")()
        return middle(page, ".clip-fields [role=slider]")

    def strength() -> Place:
        page.locator("[data-treatment=f]").press("Enter")
        return middle(page, ".strength [role=slider]")

    return {
        "control of an effect": (slider("Gain"), (-20, 0), (20, 0), False),
        "grip of a drawing": (grip, (0, 0), (-90, 0), True),
        "strength": (strength, (0, 0), (-80, 0), True),
        "keyframe": (lambda: middle(page, "[data-lane] [data-key]"), (0, 0), (0, 30), False),
        "level of a clip": (clip_level, (-30, 0), (5, 0), False),
        "fade of a clip": (of_clip("fade-in"), (0, 0), (200, 0), False),
        "end of a clip": (of_clip("clip-end"), (0, 0), (-255, 0), False),
        "a clip itself": (of_clip("clip-move"), (0, 0), (260, 0), False),
        "pitch of a clip": (pitch, (0, 0), (-40, 0), True),
    }


def begin(page: Page) -> None:
    """Play from the twentieth minute, and wait until that goes on without a gap."""
    field = page.get_by_placeholder("Go to +12f")
    field.fill(str(20 * 60 * 25 + 50))
    field.press("Enter")
    play = page.get_by_role("button", name="▶ Play")
    if play.count():
        play.click()
    page.wait_for_function("window.__tap.reports.slice(-40).every((r) => r.playing && !r.starving)")
    page.wait_for_timeout(1500)


def main() -> None:
    """Measure and print one table."""
    with demo() as (page, link):
        page.add_init_script((ROOT / "tests/browser/tap.js").read_text())
        page.goto(link)
        page.wait_for_selector(".track")
        reel = Reel(page)
        page.goto(f"{page.evaluate('location.origin')}/reels/{reel.id}")
        page.wait_for_selector("[data-treatment=f]")
        page.get_by_role("button", name="More for track Noise").click()
        page.get_by_role("menuitem", name="Open the lane of level").click()
        page.get_by_role("button", name="▶ Play").click()
        page.wait_for_function("window.__tap.parts.length > 0")
        begin(page)
        for _ in range(5):
            page.get_by_role("button", name="Zoom in").click()
        print(f"{'gesture':24}{'median ms':>10}{'95 % ms':>10}{'heard':>10}")
        for name, (find, a, b, high) in gestures(page).items():
            begin(page)
            x, y = find()
            page.mouse.move(x, y)
            page.mouse.down()
            places = [(x + p[0], y + p[1]) for p in (a, b) * (STEPS // 2)]
            times: list[float] = []
            taken = take(page, lambda p=places, t=times: t.extend(stepping(page, p, 0.4, 3)), high)
            page.keyboard.press("Escape")
            page.mouse.up()
            found = latencies(taken, times)
            told = f"{len(found)}/{STEPS}"
            if found:
                print(
                    f"{name:24}{np.median(found):10.0f}{np.percentile(found, 95):10.0f}{told:>10}"
                )
            else:
                print(f"{name:24}{'':20}{told:>10}")
        turn(page, SECONDS)
        if len(sys.argv) > 1:
            endure(page, float(sys.argv[1]))


def turn(page: Page, seconds: float) -> None:
    """Turn a control at every frame, and say how the sound followed."""
    begin(page)
    x, y = gestures(page)["control of an effect"][0]()
    page.mouse.move(x, y)
    page.mouse.down()
    moving = take(page, lambda: at_every_frame(page, sine(x, y, wide=20), seconds))
    page.mouse.up()
    r, lag = followed(moving, lambda moved: moved[:, 1])
    print(f"a hand that never rests, {seconds:.0f} s: correlation {r:.3f} at {lag:.0f} ms, "
          f"{moving.states / seconds:.1f} states a second, {moving.starved} gaps")  # fmt: skip


def endure(page: Page, minutes: float) -> None:
    """Turn and seek, on and on; how often there was nothing to play while a hand turned."""
    rng = np.random.default_rng(11)
    gaps, followings, waits = 0, [], []
    x, y = gestures(page)["control of an effect"][0]()
    for _ in range(round(minutes * 6)):
        field = page.get_by_placeholder("Go to +12f")
        field.fill(str(int(rng.integers(0, 1780 * 25))))
        began = time.monotonic()
        field.press("Enter")
        page.wait_for_function("window.__tap.reports.slice(-4).every((r) => !r.starving)")
        waits.append(1000 * (time.monotonic() - began))
        page.mouse.move(x, y)
        page.mouse.down()
        moving = take(page, lambda: at_every_frame(page, sine(x, y, wide=20), 9.0))
        page.mouse.up()
        gaps += moving.starved
        followings.append(followed(moving, lambda moved: moved[:, 1])[0])
    print(f"{minutes:.0f} minutes of turning and seeking: {gaps} gaps while a hand turned")
    print(f"correlation {np.median(followings):.3f}, least {min(followings):.3f}")
    print(f"sound after a seek within {np.median(waits):.0f} ms, most {max(waits):.0f}")


if __name__ == "__main__":
    main()
