"""From the demo's untreated twin to a soundtrack like the demo's, by hand, and the hand is counted.

A gesture is a click, a drag, a key, or a typed value with the Enter that ends it.
"""

import io
import time

import numpy as np
import pytest
import soundfile
from conftest import ROOT, Api, Bench, Made
from media import RATE
from test_jobs import Hand

from bathyphon.core.measure.levels import levels_of
from bathyphon.core.measure.tally import tally

MOST = 45
FRAME = RATE // 25


@pytest.fixture
def twin(server, page):
    """The reel to which nothing has been done, open, and the hand."""
    link = server.django("seed_demo", str(ROOT / "demo" / "ninth_sump" / "reel.json"))
    api = Api(server, link)
    reels = {reel["name"]: reel["id"] for reel in api.get("/api/reels")}
    # The twin itself stays untreated.
    copy = api.post(f"/api/reels/{reels['The Ninth Sump, untreated']}/copy", {})
    made = Made(copy["id"], api, {})
    page.context.add_cookies(api.cookies())
    page.goto(f"{server.url}/reels/{made.id}")
    page.wait_for_selector("[data-clip=c-score]")
    page.wait_for_timeout(600)
    return Counted(Sump(page), made)


class Sump(Bench):
    """The workbench with this reel, whose second and third shot begin at frames 300 and 550."""

    def x_of_frame(self, frame):
        shots = self.page.locator(".shot")
        first, second = (shots.nth(i).bounding_box()["x"] for i in (1, 2))
        return first + (frame - 300) * (second - first) / 250


class Counted(Hand):
    """A hand with the ways in which this reel is worked on."""

    def select(self, clip):
        self.click(self.page.locator(f"[data-clip={clip}] .clip-name, [data-clip={clip}]").first)

    def ruler(self):
        """Where the ruler is pressed."""
        box = self.page.locator(".ruler-lane").bounding_box()
        return box["y"] + box["height"] - 3

    def treat(self, words):
        """An effect for what is selected, as it is typed."""
        self.key("/")
        self.type(words)


def exported(made):
    """The whole mix as the server renders it, shape (2, n)."""
    asked = made.api.post(f"/api/reels/{made.id}/exports", {"bits": "32f"})
    for _ in range(600):
        found = next(
            e for e in made.api.get(f"/api/reels/{made.id}/exports") if e["id"] == asked["id"]
        )
        if found["state"] == "done":
            data = made.api.bytes(f"/api/exports/{asked['id']}/file")
            return soundfile.read(io.BytesIO(data), dtype="float32", always_2d=True)[0].T
        assert found["state"] not in ("failed", "cancelled"), found
        time.sleep(0.2)
    raise AssertionError("the export does not end")


@pytest.mark.long
def test_a_soundtrack_like_the_demos_takes_few_gestures(twin):
    hand, made = twin, twin.made
    before = exported(made)
    # Dawn is wide, and the score gives way to the voices.
    hand.drag(0, 300)
    hand.treat("chorus mix 28% 0f 60f")
    hand.click(hand.page.get_by_role("button", name="Treat all of Music"))
    hand.treat("duck range 14 dB")
    # A call comes back from the far wall; topside answers by radio.
    hand.select("c-l4")
    hand.cook("call and answer", "Call and answer")
    hand.select("c-l7")
    hand.treat("telephone drive 16 dB")
    # Below the surface, with its bed; a knock swells out of nothing.
    hand.drag(1125, 1625)
    hand.cook("below surface", "Below the surface")
    hand.click(hand.page.locator("[data-marker=k2]"))
    hand.cook("swell", "Swell into a hit")
    # The air bell is a small room; a line fits its gap.
    hand.drag(1625, 1900, track="voice")
    hand.treat("space mix 32%")
    hand.select("c-l10")
    hand.cook("fit line", "Fit this line")
    # The lamp runs down; the music ends on a beat and rings out.
    hand.select("c-lamp")
    hand.cook("tape stop", "Tape stop")
    hand.select("c-score")
    hand.cook("end with picture", "End with the picture", **{"Ends at": "last cut"})
    # Drips in the passage; and all of it as loud as the web wants it.
    hand.click_at(hand.bench.x_of_frame(420), hand.ruler())
    hand.search("drips in a cave", "Sound: Drips in a cave")
    hand.page.wait_for_function("document.activeElement?.matches('.sound-name')")
    hand.key("Enter")
    hand.click(hand.page.get_by_role("button", name="Treat the mix"))
    hand.treat("limit gain 4 dB ceiling -1.5 dB")
    print("gestures", hand.gestures)
    assert hand.gestures <= MOST
    document = made.document
    assert {m["recipe"] for m in document["made"]} == {
        "answer", "below_surface", "swell", "fit_line", "tape", "end_with_picture",
    }  # fmt: skip
    for medium in document["media"]:
        made.api.ready(medium["id"])
    after = exported(made)
    levels = levels_of(tally(after, RATE))
    assert levels.loudness == pytest.approx(-16, abs=1)
    assert levels.true_peak < -1
    # Dull below the surface; the music has ended with the last cut and rings out over 6 s.
    below = slice(1140 * FRAME, 1280 * FRAME)
    assert high(before[:, below]) - high(after[:, below]) > 10
    fall = level(after, 2110) - level(after, 2160)
    assert fall == pytest.approx(20, abs=6)
    assert level(before, 2110) - level(before, 2160) < 6


def level(x, frame, frames=10):
    part = x[:, frame * FRAME : (frame + frames) * FRAME]
    return 10 * np.log10(np.mean(part.astype(float) ** 2) + 1e-20)


def high(x):
    """How much of the sound lies above 1.5 kHz, in dB beside all of it."""
    spectrum = np.abs(np.fft.rfft(x.mean(axis=0).astype(float))) ** 2
    f = np.fft.rfftfreq(x.shape[1], 1 / RATE)
    return 10 * np.log10(spectrum[f > 1500].sum() / spectrum.sum())
