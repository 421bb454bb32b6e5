"""Keyframes put, dragged, boxed, copied and recorded in their lanes; poses; keys and commands."""

import numpy as np
import pytest
from conftest import pressed

FRAME = 1920
EDGE, INNER = 9, 78


class Lane:
    """One open lane on the screen."""

    def __init__(self, bench, name):
        self.bench, self.page = bench, bench.page
        self.where = self.page.locator(f"[data-lane='{name}']")
        self.where.wait_for()

    def y(self, share):
        box = self.where.locator(".key-lane-body").bounding_box()
        return box["y"] + EDGE + INNER * (1 - share)

    def click(self, frame, share):
        self.page.mouse.click(self.bench.x_of_frame(frame), self.y(share))
        self.settled()

    def mark(self, nth):
        return self.where.locator(".key-mark").nth(nth)

    def middle(self, nth):
        box = self.mark(nth).bounding_box()
        return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2

    def settled(self):
        self.page.wait_for_timeout(250)
        self.bench.saved()


def points(made, value="pan"):
    """Keyframes of the music's track as (frame, value)."""
    found = made.document["tracks"][1].get(value, 0)
    if not isinstance(found, dict):
        return []
    return [(p["at"] / FRAME, round(p["value"], 1)) for p in found["keyframes"]]


@pytest.fixture
def pan(bench, made):
    """The lane of the music's pan."""
    bench.page.get_by_role("button", name="Treat all of Music").click()
    bench.page.keyboard.press("p")
    return Lane(bench, "track:music/pan")


def test_keyframes_are_put_dragged_typed_boxed_and_undone(bench, made, pan):
    page = bench.page
    pan.click(100, 0.5)
    pan.click(300, 1.0)
    pan.click(600, 0.25)
    # The second click is beside nothing; the first snapped to the cut.
    assert points(made)[0][0] == 100
    assert [p[1] for p in points(made)] == [0.0, 100.0, -50.0]
    # A drag along time snaps to a cut and leaves the value alone.
    x, y = pan.middle(1)
    bench.drag(x, y, bench.x_of_frame(400) + 3)
    pan.settled()
    assert points(made)[1] == (400, 100)
    # A drag in value leaves the time alone.
    x, y = pan.middle(1)
    bench.drag(x, y, x, pan.y(0.75))
    pan.settled()
    assert points(made)[1][0] == 400
    assert points(made)[1][1] == pytest.approx(50, abs=4)
    # Typed.
    page.get_by_label("Value of the keyframe").fill("-30")
    page.get_by_label("Value of the keyframe").press("Enter")
    pan.settled()
    assert points(made)[1] == (400, -30)
    # All in a box are moved and raised together.
    before = points(made)
    bench.drag(bench.x_of_frame(60), pan.y(1.06), bench.x_of_frame(700), pan.y(-0.05))
    assert page.locator(".key-mark[data-chosen]").count() == 3
    for key in ("Alt+Shift+ArrowRight", "Alt+ArrowUp"):
        page.keyboard.press(key)
        pan.settled()
    assert points(made) == [(f + 5, round(v + 2, 1)) for f, v in before]
    assert page.get_by_role("button", name="Undo: move 3 keyframes").count() == 1
    page.keyboard.press("Delete")
    pan.settled()
    assert points(made) == []
    for _ in range(3):
        page.keyboard.press("Control+z")
        pan.settled()
    assert points(made) == before


def test_keyframes_are_copied_to_another_lane_and_heard(bench, made, pan, tmp_path):
    page = bench.page
    pan.click(100, 1.0)
    pan.click(250, 0.0)
    page.keyboard.press("Control+a")
    page.keyboard.press("Control+c")
    page.get_by_role("button", name="Go to").or_(page.get_by_role("button", name="More ▾")).click()
    page.get_by_role("menuitem", name="Go to Music").click()
    page.keyboard.press("v")
    level = Lane(bench, "track:music/gain_db")
    page.keyboard.press("Home")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("ArrowDown")
    page.wait_for_timeout(200)
    page.keyboard.press("Control+v")
    level.settled()
    # By their places on the scale, since a side is no level.
    assert points(made, "gain_db") == [(250, 24), (400, -96)]
    page.keyboard.press("Control+z")
    level.settled()
    at, sound = bench.played(170)
    expected = made.render(tmp_path)
    assert at.size > 30000
    assert np.abs(sound - expected[:, at]).max() < 1e-6


@pytest.mark.in_time
def test_a_control_turned_while_it_plays_is_recorded_and_thinned(bench, made, pan):
    page = bench.page
    bench.start_listening()
    bench.play()
    page.wait_for_timeout(300)
    thumb = page.get_by_role("slider", name="Pan")
    box = thumb.bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    for k in range(25):
        page.mouse.move(x + 30 * np.sin(k / 4), y)
        page.wait_for_timeout(60)
    page.mouse.up()
    pan.settled()
    bench.pause()
    found = points(made)
    assert 4 < len(found) < 27
    assert max(v for _, v in found) > 20 > -20 > min(v for _, v in found)
    assert page.get_by_role("button", name="Undo: record pan of Music").count() == 1


def test_all_of_it_by_keyboard_alone(bench, made):
    """A range from cut to cut treated, its lane opened, keyframes put, nudged and softened."""
    page = bench.page
    page.keyboard.press("PageDown")
    page.keyboard.press("PageDown")
    for key in ("ArrowDown", "r", "ArrowDown", "/"):
        pressed(page, key)
        page.wait_for_timeout(200)
    page.keyboard.type("muffle 3f -12dB")
    page.keyboard.press("Enter")
    page.wait_for_timeout(300)
    bench.saved()
    (span,) = made.document["tracks"][1]["treatments"]
    assert (span["start"], span["length"]) == (100 * FRAME, 150 * FRAME)
    page.keyboard.press("Shift+ArrowDown")
    bench.saved()
    page.wait_for_timeout(200)
    assert made.document["tracks"][1]["treatments"][0]["length"] == 300 * FRAME
    page.get_by_role("button", name="Keyframes of Level").focus()
    page.keyboard.press("Enter")
    for key in ("k", "ArrowLeft", "Shift+ArrowLeft", "k", "Alt+ArrowDown"):
        page.keyboard.press(key)
        page.wait_for_timeout(250)
        bench.saved()
    level = made.document["tracks"][1]["treatments"][0]["effects"][0]["params"]["level_db"]
    assert [p["at"] // FRAME for p in level["keyframes"]] == [144, 150]
    assert level["keyframes"][0]["value"] < -12
    pressed(page, "Control+k")
    page.get_by_label("Search everything").wait_for()
    page.keyboard.type("soften")
    page.keyboard.press("Enter")
    page.wait_for_timeout(300)
    bench.saved()
    level = made.document["tracks"][1]["treatments"][0]["effects"][0]["params"]["level_db"]
    assert level["keyframes"][0]["ease"] == "smooth"


def test_keys_are_changed_and_kept_with_the_account(bench, made):
    page = bench.page
    page.keyboard.press("?")
    cap = page.get_by_label("Keys of: Add a marker at the playhead")
    cap.click()
    page.keyboard.press("n")
    page.wait_for_timeout(300)
    assert cap.text_content() == "N"
    page.reload()
    page.wait_for_selector(".track")
    page.wait_for_timeout(800)
    page.keyboard.press("m")
    page.keyboard.press("n")
    page.wait_for_timeout(400)
    bench.saved()
    assert len(made.document["markers"]) == 1
    page.keyboard.press("?")
    page.get_by_role("button", name="All keys as usual").click()
    page.wait_for_timeout(300)
    assert made.api.get("/api/account/preferences") == {"keys": {}}


def test_history_goes_back_to_any_of_it(bench, made):
    page = bench.page
    page.keyboard.press("PageDown")
    for key in ("m", "ArrowDown", "m", "ArrowDown", "m"):
        page.keyboard.press(key)
        page.wait_for_timeout(250)
        bench.saved()
    assert len(made.document["markers"]) == 3
    page.get_by_role("tab", name="History").click()
    page.get_by_role("button", name="Back to here: ").nth(1).click()
    page.wait_for_timeout(600)
    bench.saved()
    assert len(made.document["markers"]) == 1
    # Redo brings back what was gone back over, in one step as well.
    page.keyboard.press("Control+Shift+z")
    bench.saved()
    page.wait_for_timeout(300)
    assert len(made.document["markers"]) == 3


def test_tracks_are_renamed_folded_and_put_in_order(bench, made):
    page = bench.page

    def middle(name):
        box = page.get_by_label(f"Place of {name}").bounding_box()
        return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2

    bench.drag(*middle("Music"), *middle("Voice"))
    bench.saved()
    page.wait_for_timeout(400)
    assert [t["name"] for t in made.document["tracks"]] == ["Music", "Voice"]
    page.locator(".track-title").get_by_text("Voice").dblclick()
    page.get_by_label("New name of Voice").fill("Mara")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="More for track Mara").click()
    page.get_by_role("menuitem", name="Fold").click()
    page.wait_for_timeout(300)
    bench.saved()
    track = made.document["tracks"][1]
    assert (track["name"], track["folded"]) == ("Mara", True)
    assert page.locator("section[aria-label='Track Mara']").bounding_box()["height"] < 40
