"""What pulls a hand: beats while they are shown, nothing from far for a click; tails, markers."""

from __future__ import annotations

import numpy as np
import pytest
from conftest import at_rest, pressed
from media import RATE

FRAME = 1920


@pytest.fixture
def beats(bench, made):
    """The song's beats, shown."""
    page = bench.page
    song = made.document["tracks"][1]["clips"][0]
    found = made.api.get(f"/api/reels/{made.id}/found")["beats"][song["id"]]
    page.evaluate("localStorage.setItem('bathyphon.beats', 'shown')")
    page.reload()
    page.locator(".beat").first.wait_for()
    return np.array(found)


def spans(made):
    return made.document["tracks"][1]["treatments"]


def ringing(page, made, start, end):
    """A reverb on the music from frame to frame, selected: its ring-out can be taken hold of."""
    reverb = {"id": "r", "kind": "reverb", "params": {"decay_s": 4.0}}
    made.edit(
        kind="add_treatment", track="music", id="f1", name="Ring",
        start={"frame": start}, end={"frame": end}, effects=[reverb],
    )  # fmt: skip
    page.locator("[data-treatment=f1]").press("Enter")
    page.locator("[data-grip=tail]").wait_for()


def test_what_is_dragged_snaps_to_a_shown_beat_and_says_so(bench, made, beats):
    page = bench.page
    made.edit(
        kind="add_treatment", track="music", id="f1", name="Under",
        start={"frame": 20}, end={"frame": 60}, effects=[],
    )  # fmt: skip
    page.locator("[data-treatment=f1]").focus()
    page.keyboard.press("Enter")
    bench.go_to(40)
    for _ in range(4):
        page.get_by_role("button", name="Zoom in").click()
    beat = beats[beats > 63 * FRAME][0]
    box = at_rest(page.locator("[data-treatment=f1]"))
    y, per_frame = box["y"] + 8, box["width"] / 40
    page.mouse.move(box["x"] + box["width"] - 3, y)
    page.mouse.down()
    page.mouse.move(box["x"] + (beat / FRAME - 20) * per_frame + 4, y, steps=6)
    assert "beat" in page.locator(".readout").inner_text()
    page.mouse.up()
    page.wait_for_timeout(300)
    bench.saved()
    end = spans(made)[0]["start"] + spans(made)[0]["length"]
    assert abs(end - beat) <= FRAME / 2 + 1


def test_from_beat_to_beat_and_markers_on_those_of_a_range(bench, made, beats):
    page = bench.page
    bench.go_to(50)
    page.keyboard.press("Alt+.")
    page.wait_for_timeout(150)
    following = beats[beats > 50 * FRAME]
    assert abs(bench.frame() * FRAME - following[0]) <= FRAME
    page.keyboard.press("Alt+.")
    page.keyboard.press("Alt+,")
    page.wait_for_timeout(150)
    assert abs(bench.frame() * FRAME - following[0]) <= FRAME
    y = bench.lane("music")["y"] + bench.lane("music")["height"] - 14
    bench.drag(bench.x_of_frame(100), y, bench.x_of_frame(250))
    pressed(page, "Control+k")
    page.keyboard.type("markers on every second beat")
    page.get_by_role("listbox").get_by_role("option").first.wait_for()
    page.keyboard.press("Enter")
    page.wait_for_timeout(400)
    bench.saved()
    inside = beats[(beats >= 100 * FRAME) & (beats < 250 * FRAME)]
    assert [m["at"] for m in made.document["markers"]] == inside[::2].tolist()


def test_a_click_in_a_lane_lands_where_it_is_made_and_is_read_before(bench, made):
    """At the zoom of the whole reel a cut within 9 pixels would pull it 20 frames away."""
    page = bench.page
    page.get_by_role("button", name="More for track Music").click()
    page.get_by_role("menuitem", name="Open the lane of pan").click()
    page.wait_for_timeout(300)
    box = page.locator(".key-lane-body").bounding_box()
    per_pixel = page.evaluate("window.__view")[1] / FRAME
    x = bench.x_of_frame(250) + 6
    page.mouse.move(x, box["y"] + box["height"] / 2)
    page.locator(".readout").wait_for()
    read = page.locator(".readout").inner_text()
    page.mouse.down()
    page.mouse.up()
    page.wait_for_timeout(300)
    bench.saved()
    (key,) = made.document["tracks"][1]["pan"]["keyframes"]
    assert abs(key["at"] / FRAME - (250 + 6 * per_pixel)) <= 1.5
    seconds, frames = divmod(round(key["at"] / FRAME), 25)
    assert f"00:00:{seconds:02}:{frames:02}" in read


def test_a_tail_is_taken_hold_of_and_lasts_so_long_from_then_on(bench, made):
    page = bench.page
    ringing(page, made, 300, 400)
    grip = page.locator("[data-grip=tail]")
    box = grip.bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    bench.drag(x, y, bench.x_of_frame(450))
    page.wait_for_timeout(300)
    bench.saved()
    ring = spans(made)[0]["ring_out"]
    assert abs(ring - 50 * FRAME) <= 3 * FRAME
    assert page.get_by_label("Seconds of ring-out").input_value() == f"{ring / 48000:.2f} s"
    # Given up, it stays as it was, though it was off for a moment and has no length to show then.
    box = grip.bounding_box()
    page.mouse.move(box["x"] + 12, y)
    page.mouse.down()
    page.mouse.move(box["x"] - 40, y, steps=4)
    # Seen while it moves, and nothing of it is kept.
    was = f"{ring / 48000:.2f} s"
    value = "document.querySelector('[aria-label=\"Seconds of ring-out\"]')?.value"
    page.wait_for_function(f"(was) => {value} !== was", arg=was)
    page.keyboard.press("Escape")
    page.mouse.up()
    page.wait_for_function(f"(was) => {value} === was", arg=was)
    page.wait_for_timeout(200)
    assert spans(made)[0]["ring_out"] == ring


DRAG = """([within, grip, name, by]) => {
  if (name) document.querySelector(`[aria-label="${name}"]`).click();
  const target = document.querySelector(`${within} [data-treatment=f1] [data-grip=${grip}]`) ??
    document.querySelector(`${within} [data-grip=${grip}]`);
  const say = (type, x) => target.dispatchEvent(new PointerEvent(type, {
    pointerId: 1, button: 0, buttons: type === 'pointerup' ? 0 : 1, clientX: x, clientY: 300,
    altKey: true, bubbles: true, cancelable: true,
  }));
  say('pointerdown', 600);
  say('pointermove', 600 + by);
  say('pointerup', 600 + by);
}"""


@pytest.mark.parametrize("grip", ["end", "tail"])
def test_what_is_dragged_before_it_is_laid_out_anew_goes_as_far_as_the_pointer(bench, made, grip):
    """What has been zoomed is only stretched at first, and on a busy machine for a while."""
    page = bench.page
    ringing(page, made, 120, 160)
    made.edit(kind="set_chain", owner="treatment:f1", ring_out=RATE)

    def length():
        treatment = spans(made)[0]
        return treatment["ring_out"] if grip == "tail" else treatment["length"]

    def dragged(name):
        before = length()
        page.evaluate(DRAG, ["", grip, name, 40])
        page.wait_for_timeout(300)
        bench.saved()
        bench.laid_out()
        return length() - before

    page.get_by_role("button", name="Zoom in").click()
    bench.laid_out()
    at_rest(page.locator("[data-treatment=f1]"))
    wanted = dragged("")
    assert wanted > FRAME
    page.get_by_role("button", name="Zoom out").click()
    bench.laid_out()
    at_rest(page.locator("[data-treatment=f1]"))
    assert abs(dragged("Zoom in") - wanted) <= FRAME


@pytest.mark.parametrize("grip", ["end", "tail"])
def test_in_the_magnifier_it_goes_as_far_too_though_what_is_around_has_just_been_zoomed(
    bench, made, grip
):
    page = bench.page
    ringing(page, made, 120, 132)
    made.edit(kind="set_chain", owner="treatment:f1", ring_out=FRAME * 8)
    page.get_by_role("button", name="Magnify the cuts of Ring").click()
    glass = page.get_by_role("region", name="Magnified: Ring")
    glass.wait_for()
    at_rest(glass)

    def dragged(name, px):
        key = "ring_out" if grip == "tail" else "length"
        before = spans(made)[0][key]
        page.evaluate(DRAG, [".magnifier", grip, name, px])
        page.wait_for_timeout(300)
        bench.saved()
        bench.laid_out()
        at_rest(glass)
        return (spans(made)[0][key] - before) / FRAME

    assert dragged("", 45) == pytest.approx(5, abs=0.5)
    # Stretched along with the timeline until it is laid out anew.
    assert dragged("Zoom in", 72) == pytest.approx(5, abs=0.5)
    assert dragged("Zoom out", 45) == pytest.approx(8, abs=0.5)
