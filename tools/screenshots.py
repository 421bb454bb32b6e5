"""Take the pictures in ``docs/screenshots/``, from the demo reel as it is when it is brought in.

Run as ``PYTHONPATH=src .venv/bin/python tools/screenshots.py [NAME …]``; starts the demo by itself.
The demo keeps what was done to it: take its database away first if it has been used.
"""

from __future__ import annotations

import sys
import uuid
from collections.abc import Callable
from pathlib import Path
from typing import Any

from playwright.sync_api import Page

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT / "bench"))
from running import demo  # noqa: E402

FOLDER = ROOT / "docs" / "screenshots"
FRAME = 1920
SETTLED_MS = 1600
LOOK_MS = 100
LONGEST_MS = 60_000


class Quiet:
    """Knows when a page has got all that it has asked for."""

    def __init__(self, page: Page) -> None:
        self._page = page
        self._under: set[object] = set()
        page.on("request", lambda r: self._under.add(r) if _ends(r.url) else None)
        for over in ("requestfinished", "requestfailed"):
            page.on(over, lambda r: self._under.discard(r))  # type: ignore[call-overload]

    def wait(self) -> None:
        """Until nothing has been under way for a while."""
        still = 0
        for _ in range(LONGEST_MS // LOOK_MS):
            self._page.wait_for_timeout(LOOK_MS)
            still = 0 if self._under else still + LOOK_MS
            if still >= SETTLED_MS:
                return
        raise TimeoutError("the page goes on asking")


def _ends(url: str) -> bool:
    """Whether an answer ends: what happens elsewhere is told for as long as the page is open."""
    return "/api/" in url and "/events" not in url


class Studio:
    """The demo reel, open in a page."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.reel = page.url.rsplit("/", 1)[1]
        self._origin = page.evaluate("location.origin")
        self._token = next(c["value"] for c in page.context.cookies() if c["name"] == "csrftoken")

    def edit(self, *commands: dict[str, Any]) -> None:
        """One edit of the reel."""
        path = f"{self._origin}/api/reels/{self.reel}"
        base = self.page.request.get(path).json()["revision"]
        data = {"edit_id": str(uuid.uuid4()), "base": base, "commands": list(commands)}
        headers = {"X-CSRFToken": self._token}
        answer = self.page.request.post(f"{path}/edits", data=data, headers=headers)
        assert answer.ok, answer.text()
        self.page.wait_for_timeout(500)

    @property
    def below(self) -> str:
        """The treatment of the music below the surface."""
        document = self.page.request.get(f"{self._origin}/api/reels/{self.reel}").json()["document"]
        (music,) = (t for t in document["tracks"] if t["id"] == "music")
        (span,) = (t for t in music["treatments"] if t["name"] == "Below the surface")
        return str(span["id"])

    def undo(self) -> None:
        """Take back the last edit."""
        self.page.get_by_role("button", name="Undo: ").click()
        self.page.wait_for_timeout(500)

    def go(self, frame: int) -> None:
        """Put the playhead somewhere."""
        field = self.page.get_by_placeholder("Go to +12f")
        field.fill(str(frame))
        field.press("Enter")
        field.evaluate("(element) => element.blur()")

    def choose(self, kind: str, id: str) -> None:
        """Select a clip or a treatment."""
        self.page.locator(f"[data-{kind}={id}]").focus()
        self.page.keyboard.press("Enter")

    def tab(self, name: str) -> None:
        """Show one of the left column's tabs."""
        self.page.get_by_role("tab", name=name).click()

    def zoom(self, times: int) -> None:
        """Come nearer to the playhead."""
        for _ in range(times):
            self.page.get_by_role("button", name="Zoom in").click()

    def whole(self) -> None:
        """Show the whole reel, nothing selected."""
        self.page.get_by_role("button", name="all", exact=True).click()
        self.page.keyboard.press("Escape")

    def open_card(self, name: str) -> None:
        """Open an effect's card."""
        button = self.page.get_by_role("region", name=name).get_by_role("button").nth(1)
        if button.get_attribute("aria-expanded") == "false":
            button.click()


def treatment(id: str, first: int, last: int, *effects: dict[str, Any], **more: Any) -> Any:
    """The command that treats a stretch of the music."""
    return {
        "kind": "add_treatment", "track": "music", "id": id, "name": more.get("name", ""),
        "start": {"frame": first}, "end": {"frame": last}, "effects": list(effects),
        "ramp_in": {"frames": more.get("head", 12)}, "ramp_out": {"frames": more.get("foot", 30)},
    }  # fmt: skip


UNDER = treatment(
    "under", 22 * 25, 36 * 25,
    {"id": "m", "kind": "muffle", "params": {"high_cut_hz": 900.0}}, name="Under",
)  # fmt: skip


def by_day(s: Studio) -> None:
    """The sump: what the demo does with the music below the surface."""
    s.go(53 * 25 + 20)
    s.choose("treatment", s.below)


def under(s: Studio) -> None:
    """A muffle of one's own in the great chamber."""
    s.edit(UNDER)
    s.go(29 * 25 + 20)
    s.choose("treatment", "under")


def by_night(s: Studio) -> None:
    by_day(s)
    s.page.emulate_media(color_scheme="dark")


def a_range(s: Studio) -> None:
    box = s.page.locator("[data-track=music]").bounding_box()
    cuts = [c.bounding_box() for c in s.page.locator(".cut-line").all()]
    assert box
    left, right = cuts[3], cuts[4]
    assert left
    assert right
    y = box["y"] + box["height"] - 14
    s.page.mouse.move(left["x"] + 2, y)
    s.page.mouse.down()
    s.page.mouse.move(right["x"], y, steps=8)
    s.page.mouse.up()


def several(s: Studio) -> None:
    again = treatment(
        "again", 66 * 25, 76 * 25,
        {"id": "m", "kind": "muffle", "params": {"high_cut_hz": 1400.0}}, name="Deeper",
    )  # fmt: skip
    s.edit(UNDER, again)
    s.go(29 * 25 + 20)
    s.choose("treatment", "under")
    s.page.locator("[data-treatment=again]").press("Control+Enter")


def effects(s: Studio) -> None:
    bands = [
        {"type": "low_cut", "freq_hz": 70},
        {"type": "peak", "freq_hz": 320, "gain_db": -5, "q": 1.4},
        {"type": "peak", "freq_hz": 2600, "gain_db": 4},
        {"type": "high_shelf", "freq_hz": 8000, "gain_db": 3},
    ]
    equaliser = {"id": "q", "kind": "eq", "params": {"bands": bands}}
    s.edit({"kind": "add_effect", "owner": "mix", "index": 0, "effect": equaliser})
    s.go(53 * 25 + 20)
    s.page.locator(".chain-button[aria-label*='the mix']").click()
    s.open_card("Equaliser")


def typed(s: Studio) -> None:
    under(s)
    s.page.keyboard.press("/")
    s.page.get_by_label("Search effects").wait_for()
    s.page.keyboard.type("echo 86m 18% ramps 3f")


def analysis(s: Studio) -> None:
    """What a muffle does to the spectrum and the loudness of its stretch."""
    under(s)
    for kind in ("Loudness", "Spectrogram"):
        s.choose("treatment", "under")
        s.page.get_by_role("button", name="Analyse").click()
        s.page.get_by_role("menuitem", name=kind, exact=True).click()
        s.page.wait_for_timeout(4000)


def lanes(s: Studio) -> None:
    points = [(24, 600), (25, 2600), (28, 300), (31, 2000), (33, 450), (35, 450)]
    pans = [(22 * 25, 0), (28 * 25 + 12, 100), (36 * 25, -100)]
    s.edit(
        UNDER,
        {"kind": "put_keyframes",
         "keys": [{"lane": "treatment:under/m/high_cut_hz", "moment": {"frame": f * 25},
                   "value": v} for f, v in points]},
        {"kind": "put_keyframes",
         "keys": [{"lane": "track:music/pan", "moment": {"frame": f}, "value": v, "ease": "hold"}
                  for f, v in pans]},
    )  # fmt: skip
    s.go(28 * 25)
    s.page.get_by_role("button", name="More for track Music").click()
    s.page.get_by_role("menuitem", name="Open the lane of pan").click()
    s.choose("treatment", "under")
    s.page.get_by_role("button", name="Keyframes of High cut").click()


def clip(s: Studio) -> None:
    s.edit({"kind": "tie_clips", "ids": ["c-l2"], "tied": True})
    fade = {"kind": "set_fade", "id": "c-l2", "edge": "in", "fade": {"length": 19 * FRAME}}
    s.edit({"kind": "move_clips", "ids": ["c-l2"], "frames": 4}, fade)
    s.go(9 * 25 + 15)
    s.zoom(4)
    s.choose("clip", "c-l2")


def magnifier(s: Studio) -> None:
    s.edit(treatment("short", 54 * 25, 54 * 25 + 9,
                     {"id": "g", "kind": "gain", "params": {"level_db": -12}},
                     name="Knock", head=2, foot=3))  # fmt: skip
    s.go(54 * 25 + 4)
    s.zoom(3)
    s.choose("treatment", "short")
    s.page.get_by_role("button", name="Magnify the cuts of Knock").click()


def speed(s: Studio) -> None:
    s.edit({"kind": "fit_clip", "id": "c-l2", "edge": "end", "to": {"frame": 12 * 25}})
    s.go(9 * 25 + 15)
    s.zoom(4)
    s.choose("clip", "c-l2")
    s.page.get_by_role("switch", name="Show pitch").check(force=True)


def keys(s: Studio) -> None:
    s.page.keyboard.press("?")


def lists(s: Studio) -> None:
    """What sounds wrong, in a reel that has been spoilt a little, above markers and cuts."""
    s.edit(
        {"kind": "set_track", "id": "music", "gain_db": 9},
        {"kind": "trim_clip", "id": "c-deep", "edge": "end", "to": {"frame": 1500}},
        {"kind": "set_fade", "id": "c-deep", "edge": "out", "fade": {"frames": 0}},
    )
    s.tab("Lists")
    s.page.wait_for_timeout(4000)
    done = "document.querySelector('.findings [role=status]') === null"
    s.page.wait_for_function(done, timeout=120_000)
    s.page.wait_for_timeout(800)


def compare(s: Studio) -> None:
    """What the reel can be compared with."""
    under(s)
    s.page.get_by_role("button", name="What to compare with").click()


def export(s: Studio) -> None:
    s.page.get_by_role("button", name="Export…").click()
    s.page.locator(".foreseen", has_text="LUFS").wait_for(timeout=60_000)


def reels(s: Studio) -> None:
    s.page.get_by_role("link", name="Bathyphon").click()


def new_reel(s: Studio) -> None:
    s.page.get_by_role("link", name="Bathyphon").click()
    s.page.get_by_role("button", name="New reel…").click()


def sounds(s: Studio) -> None:
    """A bed found by its words."""
    s.go(620)
    s.tab("Media & sounds")
    s.page.get_by_text("Sounds", exact=True).click()
    s.page.get_by_label("Search sounds").fill("cave drops")
    s.page.wait_for_timeout(700)
    s.page.get_by_role("button", name="Drips in a cave Single").click()
    s.page.get_by_text("The mix there is at").wait_for()


def recipe(s: Studio) -> None:
    """What a recipe has made, its answers open."""
    s.go(1200)
    s.tab("Media & sounds")
    s.page.get_by_text("Recipes", exact=True).click()
    made = s.page.get_by_role("region", name="Made in this reel")
    made.get_by_role("button", name="Below the surface").click()
    s.page.wait_for_timeout(1000)


PICTURES: dict[str, Callable[[Studio], None]] = {
    "workbench-day": by_day, "workbench-night": by_night, "range": a_range, "several": several,
    "sounds": sounds, "recipe": recipe,
    "effects": effects, "typed": typed, "lanes": lanes, "analysis": analysis,
    "clip": clip, "magnifier": magnifier, "speed": speed, "keys": keys, "lists": lists,
    "compare": compare, "export": export, "reels": reels, "new-reel": new_reel,
}  # fmt: skip


def main(wanted: list[str]) -> None:
    """Take the pictures that are named, or all."""
    with demo() as (page, link):
        page.set_default_timeout(8000)
        quiet = Quiet(page)
        page.goto(link)
        page.wait_for_selector(".track")
        page.wait_for_timeout(2500)
        address = page.url
        reel = address.rsplit("/", 1)[1]
        for name in wanted or PICTURES:
            page.emulate_media(color_scheme="light")
            page.goto(address)
            page.evaluate("localStorage.clear()")
            page.goto(address)
            page.wait_for_selector("[data-track=music]")
            quiet.wait()
            studio = Studio(page)
            before = page.request.get(f"{page.evaluate('location.origin')}/api/reels/{reel}").json()
            PICTURES[name](studio)
            page.mouse.move(1100, 660)
            quiet.wait()
            page.screenshot(path=FOLDER / f"{name}.png")
            print(name, flush=True)
            # As it was before, for the next picture.
            page.goto(address)
            page.wait_for_selector("[data-track=music]")
            page.wait_for_timeout(500)
            path = f"{page.evaluate('location.origin')}/api/reels/{reel}"
            while page.request.get(path).json()["document"] != before["document"]:
                studio.undo()


if __name__ == "__main__":
    main(sys.argv[1:])
