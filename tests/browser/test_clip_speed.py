"""Speed and pitch of clips, by mouse and keys; what is heard is what is rendered."""

import re

import numpy as np
import pytest
from media import RATE

FRAME = 1920


def clip_of(made, track="voice"):
    return next(t for t in made.document["tracks"] if t["id"] == track)["clips"][0]


def settled(bench):
    bench.page.wait_for_timeout(250)
    bench.saved()


def chosen(bench, clip="c-voice"):
    page = bench.page
    page.locator(f"[data-clip={clip}] [data-grip=clip-move]").click(position={"x": 12, "y": 6})
    head = page.get_by_role("button", name=re.compile("^Speed and pitch"))
    head.click()
    return page.get_by_role("region", name="Speed and pitch")


def typed(sheet, label, text):
    field = sheet.get_by_label(label, exact=True)
    field.fill(text)
    field.press("Enter")


def test_a_line_is_typed_faster_and_heard_as_it_is_rendered(bench, made, tmp_path):
    sheet = chosen(bench)
    typed(sheet, "Speed, value", "110 %")
    settled(bench)
    clip = clip_of(made)
    assert clip["speed"]["percent"] == 110
    assert clip["length"] == int(100 * 2.5 * RATE / 110 + 0.5)
    # The shift is told; exactly undone it is −1.65 semitones, by ear −1.5.
    assert "+1.65 st" in sheet.inner_text()
    sheet.get_by_text("Change with speed", exact=True).click()
    settled(bench)
    sheet.get_by_role("button", name="by ear, −1.5 st").wait_for()
    sheet.get_by_role("button", name="exactly, −1.65 st").click()
    settled(bench)
    clip = clip_of(made)
    assert clip["speed"]["semitones"] + clip["speed"]["cents"] / 100 == pytest.approx(
        -1.650, abs=1e-3
    )
    at, sound = bench.played(126)
    expected = made.render(tmp_path)
    assert at.size > 24000
    assert np.abs(sound - expected[:, at]).max() < 1e-6
    bench.page.keyboard.press("z")
    bench.page.locator("[data-clip=c-voice] .speed-badge").wait_for(state="attached")


def test_a_length_is_typed_and_the_sound_fits(bench, made):
    sheet = chosen(bench)
    typed(sheet, "Duration, by speed", "2 s")
    settled(bench)
    clip = clip_of(made)
    assert (clip["length"], clip["speed"]["percent"]) == (2 * RATE, 125)
    assert "stays natural up to 110 to 125 %" in sheet.inner_text()
    # Back with one click.
    sheet.get_by_role("button", name="Reset speed", exact=True).click()
    settled(bench)
    clip = clip_of(made)
    assert "speed" not in clip
    assert clip["length"] == round(2.5 * RATE)


def test_an_edge_is_dragged_to_a_cut_and_the_sound_fills_the_length(bench, made):
    """The voice ends at frame 187.5; the next cut is at 250."""
    chosen(bench)
    page = bench.page
    made.edit(kind="trim_clip", id="c-voice", edge="end", to={"frame": 230})
    bench.shows(made)
    page.keyboard.press("z")
    page.keyboard.press("-")
    bench.laid_out()
    grip = page.locator("[data-clip=c-voice] [data-grip=fit-end]").bounding_box()
    x, y = grip["x"] + grip["width"] / 2, grip["y"] + grip["height"] / 2
    wide = page.locator("[data-clip=c-voice]").bounding_box()["width"]
    bench.drag(x, y, x + wide * 20 / 105)
    settled(bench)
    clip = clip_of(made)
    assert clip["start"] + clip["length"] == 250 * FRAME
    assert clip["speed"]["percent"] == pytest.approx(100 * 105 / 125, abs=0.01)
    assert clip.get("source_start", 0) == 0
    page.keyboard.press("Control+z")
    settled(bench)
    # The same by its button.
    page.get_by_role("button", name="next cut", exact=True).click()
    settled(bench)
    assert clip_of(made)["start"] + clip_of(made)["length"] == 250 * FRAME


def test_a_speed_is_keyframed_in_its_lane_and_heard_as_it_is_rendered(bench, made, tmp_path):
    page = bench.page
    sheet = chosen(bench, "c-music")
    sheet.get_by_role("button", name="Keyframes of Speed").click()
    lane = page.locator("[data-lane='clip:c-music/percent']")
    lane.wait_for()
    made.edit(
        kind="put_keyframes",
        keys=[
            {"lane": "clip:c-music/percent", "moment": {"frame": 100}, "value": 100},
            {"lane": "clip:c-music/percent", "moment": {"frame": 140}, "value": 40},
            {"lane": "clip:c-music/percent", "moment": {"frame": 160}, "value": 100},
        ],
    )
    page.wait_for_timeout(400)
    assert lane.locator("[data-key]").count() >= 1 or lane.get_by_role("button").count() >= 3
    at, sound = bench.played(110)
    expected = made.render(tmp_path)
    assert at.size > 24000
    assert np.abs(sound - expected[:, at]).max() < 1e-6
    assert "On average" in sheet.inner_text()
