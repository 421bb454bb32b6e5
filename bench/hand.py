"""From hand to ear: how soon each kind of gesture is heard, in the browser, while the reel plays.

Run as ``PYTHONPATH=src .venv/bin/python bench/hand.py [MINUTES [only]]``; starts the demo itself.
Steady noise of half an hour under a full chain plays from its twentieth minute; the hand steps
between two places and does not rest between them for longer than half a second. Each row:
milliseconds from the input event to the sample in the audio graph. With MINUTES, a hand then turns
for so long at every frame, and seeks to another place of the half hour every ten seconds; with
``only`` nothing else is measured.
"""

from __future__ import annotations

import io
import sys
import time
import uuid
from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from typing import Any

import numpy as np
import soundfile
from numpy.typing import NDArray
from playwright.sync_api import Page

from running import demo

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT / "tests" / "browser"))
from hands import Part, acting, at_every_frame, followed, latencies, sine, take  # noqa: E402
from withheld import Withheld  # noqa: E402

RATE = 48000
STEPS = 20
# A fast typist.
KEYS_APART_MS = 80
SECONDS = 8.0
# A machine of which more than this is withheld says little of the program.
LITTLE = 0.05
CHAIN = [
    ("eq", {"bands": [{"type": "peak", "freq_hz": 800, "gain_db": 3}]}),
    ("muffle", {"high_cut_hz": 6000}),
    ("reverb", {"mix": 20}),
    ("echo", {"mix": 15}),
    ("gain", {"level_db": -6}),
]
Place = tuple[float, float]
TWENTY, TWENTY_ONE, TWENTY_TWO, TWENTY_THREE, TWENTY_FOUR = (60 * k for k in range(20, 25))
# After half an hour: five seconds of noise, and then what rings out of them.
AFTER = 1800


@dataclass(frozen=True)
class Gesture:
    """What a hand does again and again.

    Parameters
    ----------
    find : callable
        Shows what is taken hold of; gives its place on the screen.
    there, back : (float, float)
        Where the pointer goes in turn, from that place.
    of : {"all", "high", "left", "pitch"}
        Part of the sound that tells.
    second : int
        Second of the reel at which it plays meanwhile.
    keys : (callable, callable), optional
        What is done by keys in turn, in place of the pointer.
    """

    find: Callable[[], Place]
    there: Place = (0, 0)
    back: Place = (0, 0)
    of: Part = "all"
    second: int = TWENTY
    keys: tuple[Callable[[], None], Callable[[], None]] | None = None


class Reel:
    """A reel of noise, made through the page's own session."""

    def __init__(self, page: Page) -> None:
        self._page = page
        self._origin = page.evaluate("location.origin")
        page.request.get(f"{self._origin}/api/account")
        self._token = next(c["value"] for c in page.context.cookies() if c["name"] == "csrftoken")
        rng = np.random.default_rng(5)
        noise = (0.1 * rng.standard_normal((60 * RATE, 2))).astype(np.float32)
        sent = self._sent("noise.wav", noise)
        # Loud, and then hardly anything: by that it is heard which part of it plays.
        halves = self._sent("halves.wav", noise * np.repeat([1, 0.03], 30 * RATE)[:, None])
        # By that it is heard how fast it plays: slowly it has not got beyond what is loud.
        loud_first = self._sent(
            "first.wav", noise * np.where(np.arange(60 * RATE) < 4 * RATE, 1, 0.03)[:, None]
        )
        # By its pitch it is heard how far that is moved.
        wave = 0.1 * np.sin(2 * np.pi * 1000 * np.arange(60 * RATE) / RATE)
        tone = self._sent("tone.wav", np.repeat(wave[:, None], 2, axis=1))
        self.id = self._post("/api/reels", data={"name": "Noise"})["id"]
        special = {23: loud_first, 24: tone}
        clips = [
            {"kind": "add_clip", "track": "t",
             "clip": {"id": f"c{k}", "media": special.get(k, sent), "name": f"clip {k}",
                      "start": 60 * k * RATE, "length": 60 * RATE}}
            for k in range(30) if k != 21
        ]  # fmt: skip
        clips.append({
            "kind": "add_clip", "track": "t",
            "clip": {"id": "c21", "media": halves, "name": "halves", "start": TWENTY_ONE * RATE,
                     "length": 30 * RATE, "source_start": 10 * RATE,
                     "speed": {"percent": 100, "pitch": "follow"}},
        })  # fmt: skip
        # A tone that leaves its formants behind is hardly heard.
        high = next(c["clip"] for c in clips if c["clip"]["id"] == "c24")
        high["speed"] = {"percent": 100, "formants": "follow"}
        effects = [{"id": f"e{i}", "kind": k, "params": p} for i, (k, p) in enumerate(CHAIN)]
        self.edit(
            {"kind": "add_medium", "medium": {"id": sent, "path": "noise.wav"}},
            {"kind": "add_medium", "medium": {"id": halves, "path": "halves.wav"}},
            {"kind": "add_medium", "medium": {"id": loud_first, "path": "first.wav"}},
            {"kind": "add_medium", "medium": {"id": tone, "path": "tone.wav"}},
            {"kind": "add_track", "track": {"id": "t", "name": "Noise"}},
            *clips,
            {"kind": "add_treatment", "track": "t", "id": "f", "name": "Full",
             "start": {"sample": 0}, "end": {"sample": 1800 * RATE}, "effects": effects},
            {"kind": "add_treatment", "track": "t", "id": "g", "name": "Quiet",
             "start": {"sample": TWENTY_TWO * RATE}, "end": {"sample": (TWENTY_TWO + 50) * RATE},
             "effects": [{"id": "q", "kind": "gain", "params": {"level_db": -30}}]},
            {"kind": "add_track", "track": {"id": "r", "name": "Ringing"}},
            {"kind": "add_clip", "track": "r",
             "clip": {"id": "r", "media": sent, "name": "ringing", "start": AFTER * RATE,
                      "length": 5 * RATE}},
            {"kind": "add_treatment", "track": "r", "id": "h", "name": "Hall",
             "start": {"sample": AFTER * RATE}, "end": {"sample": (AFTER + 5) * RATE},
             "effects": [{"id": "r", "kind": "reverb", "params": {"decay_s": 30, "mix": 100}}]},
            {"kind": "set_chain", "owner": "treatment:h", "ring_out": 35 * RATE},
            {"kind": "put_keyframes",
             "keys": [{"lane": "track:t/gain_db", "moment": {"sample": 1195 * RATE}, "value": 0},
                      {"lane": "track:t/gain_db", "moment": {"sample": 1400 * RATE}, "value": 0}]},
        )  # fmt: skip

    def edit(self, *commands: dict[str, Any]) -> None:
        """One edit of the reel."""
        base = self._get(f"/api/reels/{self.id}")["revision"]
        data = {"edit_id": str(uuid.uuid4()), "base": base, "commands": list(commands)}
        self._post(f"/api/reels/{self.id}/edits", data=data)

    def _sent(self, name: str, sound: NDArray[np.float32]) -> str:
        file = io.BytesIO()
        soundfile.write(file, sound.astype(np.float32), RATE, format="WAV", subtype="FLOAT")
        part = {"name": name, "mimeType": "audio/wav", "buffer": file.getvalue()}
        id = str(self._post("/api/media", multipart={"file": part})["id"])
        while self._get(f"/api/media/{id}")["state"] != "ready":
            self._page.wait_for_timeout(200)
        return id

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


def gestures(page: Page) -> dict[str, Gesture]:
    """What is measured, by name."""

    def slider(name: str) -> Callable[[], Place]:
        def find() -> Place:
            card(page, name)
            return middle(page, f"[aria-label='{name}'] [role=slider]")

        return find

    def grip() -> Place:
        card(page, "Muffle")
        return middle(page, ".effect-drawing .grip .knob")

    def of_clip(grip: str, clip: str = "c20") -> Callable[[], Place]:
        def find() -> Place:
            page.locator(f"[data-clip={clip}]").press("Enter")
            return middle(page, f"[data-clip={clip}] [data-grip={grip}]")

        return find

    def of_span(grip: str) -> Callable[[], Place]:
        def find() -> Place:
            page.locator("[data-treatment=g]").press("Enter")
            return middle(page, f"[data-treatment=g] [data-grip={grip}]")

        return find

    def of_body() -> Place:
        span = page.locator("[data-treatment=g]")
        span.press("Enter")
        page.wait_for_timeout(400)
        box = span.bounding_box()
        assert box
        return box["x"] + 60, box["y"] + 30

    def speed_fields(clip: str, name: str) -> Callable[[], Place]:
        def find() -> Place:
            of_clip("clip-end", clip)()
            head = page.get_by_role("button", name="Speed and pitch")
            if head.get_attribute("aria-expanded") == "false":
                head.click()
                page.wait_for_timeout(400)
            return middle(page, f"[role=slider][aria-label='{name}']")

        return find

    def clip_level() -> Place:
        of_clip("clip-end")()
        return middle(page, ".clip-fields [role=slider]")

    def strength() -> Place:
        page.locator("[data-treatment=f]").press("Enter")
        return middle(page, ".strength [role=slider]")

    def pan() -> Place:
        page.get_by_role("button", name="Treat all of Noise").click()
        return middle(page, "[role=slider][aria-label='Pan']")

    def ring_out() -> Place:
        page.locator("[data-treatment=h]").press("Enter")
        return middle(page, "[data-track=r] [data-grip=tail]")

    def poses() -> Place:
        page.locator("[data-treatment=g]").press("Enter")
        page.get_by_role("button", name="Stamp poses on markers").click()
        choice = page.get_by_label("What the run sets")
        choice.select_option(label="Level · Gain")
        return middle(page, "[aria-label='Run of poses']")

    def typing(label: str, text: str) -> Callable[[], None]:
        def type_it() -> None:
            page.get_by_role("textbox", name=label, exact=True).select_text()
            page.keyboard.type(text, delay=KEYS_APART_MS)
            page.keyboard.press("Enter")

        return type_it

    def nudging(key: str) -> Callable[[], None]:
        knob = page.get_by_role("region", name="Gain").get_by_role("slider").first
        return lambda: knob.press(key)

    gain = slider("Gain")
    return {
        "control of an effect": Gesture(gain, (-20, 0), (20, 0)),
        "grip of a drawing": Gesture(grip, (0, 0), (-90, 0), "high"),
        "strength": Gesture(strength, (0, 0), (-80, 0), "high"),
        "keyframe": Gesture(lambda: middle(page, "[data-lane] [data-key]"), (0, 0), (0, 30)),
        "level of a clip": Gesture(clip_level, (-30, 0), (5, 0)),
        "fade of a clip": Gesture(of_clip("fade-in"), (0, 0), (200, 0)),
        "end of a clip": Gesture(of_clip("clip-end"), (0, 0), (-255, 0)),
        "a clip itself": Gesture(of_clip("clip-move"), (0, 0), (260, 0)),
        "sound within a clip": Gesture(
            of_clip("slip", "c21"), (0, 0), (-115, 0), second=TWENTY_ONE
        ),
        "speed of a clip": Gesture(
            speed_fields("c23", "Speed"), (0, 0), (-40, 0), second=TWENTY_THREE
        ),
        "pitch of a clip": Gesture(
            speed_fields("c24", "Pitch"), (0, 0), (-40, 0), "pitch", TWENTY_FOUR
        ),
        "pan of a track": Gesture(pan, (0, 0), (40, 0), "left"),
        "a treatment itself": Gesture(of_body, (0, 0), (150, 0), second=TWENTY_TWO),
        "beginning of a treatment": Gesture(of_span("start"), (0, 0), (150, 0), second=TWENTY_TWO),
        "ramp of a treatment": Gesture(of_span("ramp-in"), (0, 0), (150, 0), second=TWENTY_TWO),
        # Before values are typed: what they leave loud would ring louder.
        "end of a ring-out": Gesture(ring_out, (0, 0), (-180, 0), second=AFTER + 6),
        "a typed value": Gesture(
            gain, keys=(typing("Level, value", "-24 dB"), typing("Level, value", "-6 dB"))
        ),
        "a value set by keys": Gesture(gain, keys=(nudging("Home"), nudging("End"))),
        "a pose that is stamped": Gesture(
            poses,
            second=TWENTY_TWO,
            keys=(typing("Run of poses", "0 dB"), typing("Run of poses", "-30 dB")),
        ),
    }


def begin(page: Page, second: int = TWENTY) -> None:
    """Play from a second of the reel, and wait until that goes on without a gap."""
    field = page.get_by_placeholder("Go to +12f")
    field.fill(str((second + 2) * 25))
    field.press("Enter")
    play = page.get_by_role("button", name="▶ Play")
    if play.count():
        play.click()
    page.wait_for_function("window.__tap.reports.slice(-40).every((r) => r.playing && !r.starving)")
    page.wait_for_timeout(1500)


def measured(page: Page, gesture: Gesture) -> list[float]:
    """Milliseconds from hand to ear of each of the steps that can be told."""
    begin(page, gesture.second)
    x, y = gesture.find()
    if gesture.keys:
        acts = [act for _ in range(STEPS // 2) for act in gesture.keys]
    else:
        page.mouse.move(x, y)
        page.mouse.down()
        places = [(x + p[0], y + p[1]) for p in (gesture.there, gesture.back)]
        acts = [partial(page.mouse.move, *p) for p in places * (STEPS // 2)]
    times: list[float] = []
    taken = take(page, lambda: times.extend(acting(page, acts, 0.4, 3)), gesture.of)
    if not gesture.keys:
        page.keyboard.press("Escape")
        page.mouse.up()
    return latencies(taken, times)


def main() -> None:
    """Measure and print one table."""
    before = Withheld()
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
        if sys.argv[2:] != ["only"]:
            rows(page)
        if len(sys.argv) > 1:
            endure(page, float(sys.argv[1]))
    print(f"{100 * before.share():.0f} % of the machine withheld by the host meanwhile")


def rows(page: Page) -> None:
    """Each kind of gesture, and a hand that never rests."""
    print(f"{'gesture':24}{'median ms':>10}{'95 % ms':>10}{'heard':>10}")
    for name, gesture in gestures(page).items():
        found = measured(page, gesture)
        told = f"{len(found)}/{STEPS}"
        if found:
            print(
                f"{name:26}{np.median(found):8.0f}{np.percentile(found, 95):10.0f}{told:>10}",
                flush=True,
            )
        else:
            print(f"{name:26}{'':18}{told:>10}", flush=True)
    turn(page, SECONDS)


def control(page: Page) -> Place:
    """A control with room on either side, wherever it has been left."""
    find = gestures(page)["control of an effect"].find
    find()
    field = page.get_by_role("textbox", name="Level, value", exact=True)
    field.fill("-6 dB")
    field.press("Enter")
    return find()


def turn(page: Page, seconds: float) -> None:
    """Turn a control at every frame, and say how the sound followed."""
    begin(page)
    x, y = control(page)
    page.mouse.move(x, y)
    page.mouse.down()
    moving = take(page, lambda: at_every_frame(page, sine(x, y, wide=20), seconds))
    page.mouse.up()
    r, lag = followed(moving, lambda moved: moved[:, 1])
    print(f"a hand that never rests, {seconds:.0f} s: correlation {r:.3f} at {lag:.0f} ms, "
          f"{moving.states / seconds:.1f} states a second, {moving.starved} gaps")  # fmt: skip


SOUNDS_FROM = """(place) => {
  const { position, starving } = window.__tap.reports.at(-1);
  return position > place && position < place + 2 * 48000 && !starving;
}"""


def endure(page: Page, minutes: float) -> None:
    """Turn and seek, on and on; how often there was nothing to play while a hand turned."""
    rng = np.random.default_rng(11)
    gaps: list[int] = []
    withheld: list[float] = []
    followings, waits = [], []
    x, y = control(page)
    for _ in range(round(minutes * 6)):
        field = page.get_by_placeholder("Go to +12f")
        frame = int(rng.integers(0, 1780 * 25))
        field.fill(str(frame))
        before, began = Withheld(), time.monotonic()
        field.press("Enter")
        page.wait_for_function(SOUNDS_FROM, arg=frame * RATE // 25)
        waits.append(1000 * (time.monotonic() - began))
        page.mouse.move(x, y)
        page.mouse.down()
        moving = take(page, lambda: at_every_frame(page, sine(x, y, wide=20), 9.0))
        page.mouse.up()
        gaps.append(moving.starved)
        withheld.append(before.share())
        followings.append(followed(moving, lambda moved: moved[:, 1])[0])
    print(
        f"{minutes:.0f} minutes of turning and seeking: {gaps.count(0)} of {len(gaps)} takes",
        end="",
    )
    print(f" without a gap, {sum(gaps)} moments of 20 ms without sound in the others")
    quiet = [n for n, share in zip(gaps, withheld, strict=True) if share < LITTLE]
    print(f"{len(quiet)} takes with less than {100 * LITTLE:.0f} % withheld by the host", end="")
    print(f": {quiet.count(0)} without a gap, {sum(quiet)} moments in the others")
    print(f"correlation {np.median(followings):.3f}, least {min(followings):.3f}")
    print(f"sound after a seek within {np.median(waits):.0f} ms, most {max(waits):.0f}")


if __name__ == "__main__":
    main()
