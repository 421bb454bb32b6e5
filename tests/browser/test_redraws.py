"""An edit draws anew what it touches, and nothing else, however much there is."""

from pathlib import Path

import pytest
from conftest import Bench, Made, at_rest
from media import RATE

COUNT = (Path(__file__).parent / "renders.js").read_text()
CLIPS = 1000


@pytest.fixture
def many(page, server, made: Made):
    """A thousand clips on ten tracks, forty treatments, some at another speed."""
    media = made.document["media"][0]["id"]
    gap, length = RATE // 2, RATE // 4
    for t in range(10):
        clips = [
            {"id": f"c{t}-{k}", "media": media, "start": gap * k, "length": length,
             **({"speed": {"percent": 90 + k}} if k % 10 == 0 else {})}
            for k in range(CLIPS // 10)
        ]  # fmt: skip
        spans = [
            {"id": f"f{t}-{k}", "name": "Under", "start": 10 * gap * k, "length": 4 * gap,
             "effects": [{"id": "e", "kind": "echo", "params": {}}]}
            for k in range(4)
        ]  # fmt: skip
        track = {"id": f"t{t}", "name": f"Track {t}", "clips": clips, "treatments": spans}
        made.edit(kind="add_track", track=track)
    page.add_init_script(COUNT)
    page.context.add_cookies(made.api.cookies())
    page.goto(f"{server.url}/reels/{made.id}")
    page.wait_for_selector("[data-track=t0]")
    page.wait_for_timeout(2500)
    return Bench(page)


def drawn(page, act):
    """How many components draw themselves anew because of what is done."""
    page.wait_for_timeout(600)
    page.evaluate("window.__renders = 0")
    act()
    page.wait_for_timeout(1200)
    return page.evaluate("window.__renders")


STEPS = 10


def test_what_moves_is_drawn_anew_and_what_stands_around_it_is_not(bench, made):
    """A control that is turned, and a reel that plays, with a lane and the sheet open."""
    page = bench.page
    span = {"start": {"sample": 0}, "end": {"sample": 20 * RATE}}
    effects = [{"id": "e", "kind": "gain", "params": {"level_db": -6}}]
    made.edit(kind="add_treatment", track="music", id="f", name="Quiet", effects=effects, **span)
    keys = [
        {"lane": "track:music/gain_db", "moment": {"sample": k * 15 * RATE}, "value": -k}
        for k in range(4)
    ]
    made.edit(kind="put_keyframes", keys=keys)
    page.add_init_script(COUNT)
    page.reload()
    page.locator("[data-treatment=f]").press("Enter")
    page.get_by_role("button", name="More for track Music").click()
    page.get_by_role("menuitem", name="Open the lane of level").click()
    knob = page.get_by_role("region", name="Gain").get_by_role("slider").first
    box = at_rest(knob)
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()

    def turn():
        for step in range(STEPS):
            page.mouse.move(x + 3 * (step % 2 + 1), y)
            page.wait_for_timeout(150)

    turned = drawn(page, turn) / STEPS
    page.mouse.up()
    bench.saved()
    bench.play()
    played = drawn(page, lambda: page.wait_for_timeout(2000))
    bench.pause()
    print(f"{turned:.0f} for a step of a control, {played} in three seconds of playing")
    assert 5 < turned < 150
    assert 50 < played < 1000


def test_an_edit_of_one_part_does_not_draw_a_thousand(many, made):
    page = many.page
    found = {}

    def edit(**command):
        return lambda: made.edit(**command)

    opened = page.evaluate("window.__renders")
    # By another window, and by this one's own hand.
    found["level of a clip"] = drawn(page, edit(kind="set_clip", id="c0-3", gain_db=-3))
    found["a clip moved"] = drawn(page, edit(kind="move_clips", ids=["c0-3"], frames=1))
    found["strength"] = drawn(page, edit(kind="set_chain", owner="treatment:f0-1", strength=60))
    found["level of a track"] = drawn(page, edit(kind="set_track", id="t1", gain_db=-3))
    field = page.get_by_label("Level of Track 2")
    field.fill("-7")
    found["level, typed"] = drawn(page, lambda: field.press("Enter"))
    page.locator("[data-treatment=f0-1]").press("Enter")
    found["a treatment, nudged"] = drawn(page, lambda: page.keyboard.press("Alt+ArrowRight"))
    found["undone"] = drawn(page, lambda: page.keyboard.press("Control+z"))
    print("opened:", opened, "then:", found)
    assert opened > 1500
    assert max(found.values()) < 500
    assert found["level of a clip"] < 200
