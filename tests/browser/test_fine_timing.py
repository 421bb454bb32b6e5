"""What is done where frames are a pixel wide, and what a moved clip leaves behind."""

import numpy as np
import pytest

FRAME = 1920


def music(made):
    return next(t for t in made.document["tracks"] if t["id"] == "music")


def treated(made, **spans):
    """Give the music treatments, by name: (first frame, end frame)."""
    for name, (start, end) in spans.items():
        made.edit(
            kind="add_treatment", track="music", id=name, name=name,
            start={"frame": start}, end={"frame": end},
            ramp_in={"frames": 3}, ramp_out={"frames": 3},
            effects=[{"id": "e", "kind": "muffle", "params": {"high_cut_hz": 600}}],
        )  # fmt: skip


def settled(bench):
    bench.page.wait_for_timeout(250)
    bench.saved()


def test_a_short_treatment_is_stretched_in_the_magnifier_by_single_frames(bench, made):
    treated(made, short=(300, 312))
    page = bench.page
    page.locator("[data-treatment=short]").wait_for()
    page.locator("[data-treatment=short]").press("Enter")
    page.get_by_role("button", name="Magnify the cuts of short").click()
    glass = page.get_by_role("region", name="Magnified: short")
    end = glass.locator("[data-grip=end]").bounding_box()
    head = glass.locator("[data-grip=ramp-in]").bounding_box()
    frame_px = 9
    page.keyboard.down("Alt")
    x, y = end["x"] + end["width"] / 2, end["y"] + end["height"] / 2
    bench.drag(x, y, x + 2 * frame_px)
    settled(bench)
    x, y = head["x"] + head["width"] / 2, head["y"] + head["height"] / 2
    bench.drag(x, y, x + 1 * frame_px)
    page.keyboard.up("Alt")
    settled(bench)
    (span,) = [t for t in music(made)["treatments"] if t["id"] == "short"]
    assert span["start"] == 300 * FRAME
    assert span["length"] == 14 * FRAME
    assert span["ramp_in"]["length"] == 4 * FRAME
    page.keyboard.press("Escape")
    glass.wait_for(state="detached")


def test_treatments_that_overlap_are_put_in_order_by_dragging_up_and_down(bench, made):
    treated(made, first=(200, 500), second=(250, 550))
    page = bench.page
    box = page.locator("[data-treatment=second]").bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    bench.drag(x, y, x, y - box["height"])
    settled(bench)
    assert [t["id"] for t in music(made)["treatments"]][:2] == ["second", "first"]
    page.get_by_role("button", name="Undo").click()
    settled(bench)
    assert [t["id"] for t in music(made)["treatments"]][:2] == ["first", "second"]
    page.locator("[data-treatment=second]").press("Enter")
    page.keyboard.press("Alt+PageUp")
    settled(bench)
    assert [t["id"] for t in music(made)["treatments"]][:2] == ["second", "first"]


def test_a_moved_clip_offers_to_bring_its_treatment(bench, made):
    (clip,) = music(made)["clips"]
    treated(made, over=(clip["start"] // FRAME + 20, clip["start"] // FRAME + 60))
    page = bench.page
    page.locator(f"[data-clip={clip['id']}] [data-grip=clip-move]").click(
        position={"x": 200, "y": 8}
    )
    page.keyboard.press("Alt+Shift+ArrowRight")
    page.get_by_role("button", name="Bring it along").click()
    settled(bench)
    (span,) = [t for t in music(made)["treatments"] if t["id"] == "over"]
    assert span["start"] == clip["start"] + 25 * FRAME
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    settled(bench)
    assert music(made)["clips"] == [clip]


def test_the_sound_inside_a_clip_is_slipped_by_its_grip_and_heard_so(bench, made, tmp_path):
    page = bench.page
    page.locator("[data-clip=c-voice] [data-grip=clip-move]").click()
    page.keyboard.press("z")
    made.edit(kind="trim_clip", id="c-voice", edge="start", to={"frame": 130})
    bench.shows(made)
    voice = lambda: next(t for t in made.document["tracks"] if t["id"] == "voice")["clips"][0]  # noqa: E731
    before = voice()
    box = page.locator("[data-clip=c-voice] [data-grip=slip]").bounding_box()
    wide = page.locator("[data-clip=c-voice]").bounding_box()["width"]
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    bench.drag(x, y, x - 8 * FRAME * wide / before["length"])
    settled(bench)
    after = voice()
    assert after["source_start"] == before["source_start"] + 8 * FRAME
    assert (after["start"], after["length"]) == (before["start"], before["length"])
    at, sound = bench.played(140)
    expected = made.render(tmp_path)
    assert at.size > 24000
    assert np.abs(sound - expected[:, at]).max() < 1e-6


def test_ramps_are_bent_and_crossfades_chosen_in_the_sheet(bench, made):
    treated(made, bent=(200, 500))
    page = bench.page
    page.locator("[data-treatment=bent]").press("Enter")
    page.get_by_label("Shape of the ramp in").select_option("bend")
    page.get_by_role("slider", name="Bend").focus()
    for _ in range(5):
        page.keyboard.press("ArrowRight")
    settled(bench)
    (span,) = [t for t in music(made)["treatments"] if t["id"] == "bent"]
    assert span["ramp_in"] == {"length": 3 * FRAME, "shape": "bend", "bend": pytest.approx(0.05)}
    (clip,) = music(made)["clips"]
    made.edit(kind="split_clips", ids=[clip["id"]], new=["later"], at={"frame": 300})
    made.edit(kind="trim_clip", id=clip["id"], edge="end", to={"frame": 320})
    bench.shows(made)
    page.locator(f"[data-clip={clip['id']}]").focus()
    page.keyboard.press("Enter")
    page.get_by_label("Crossfade at its end").select_option("equal_power")
    settled(bench)
    first, second = sorted(music(made)["clips"], key=lambda c: c["start"])
    assert first["fade_out"]["shape"] == second["fade_in"]["shape"] == "equal_power"
    assert first["fade_out"]["length"] == 20 * FRAME


def test_a_lane_shows_what_is_effective_and_is_a_table_too(bench, made):
    treated(made, under=(200, 500))
    page = bench.page
    for frame, value in ((220, 400.0), (400, 4000.0)):
        made.edit(
            kind="put_keyframes",
            keys=[{"lane": "treatment:under/e/high_cut_hz", "moment": {"frame": frame},
                   "value": value}],
        )  # fmt: skip
    page.wait_for_timeout(400)
    page.locator("[data-treatment=under]").press("Enter")
    page.get_by_role("button", name="Keyframes of High cut").click()
    lane = page.locator("[data-lane='treatment:under/e/high_cut_hz']")
    lane.get_by_test_id("effective").wait_for(state="attached")
    d = lane.get_by_test_id("effective").get_attribute("d")
    heights = [float(p.split(" ")[1]) for p in d[1:].split("L")]
    # Neutral, at the top, before it begins; down at the target within.
    assert min(heights) < 12
    assert max(heights) > 50
    lane.get_by_role("button", name="Table of the lane").click()
    field = page.get_by_label("Value of keyframe 2")
    field.fill("2000 Hz")
    field.press("Enter")
    settled(bench)
    moment = page.get_by_label("Moment of keyframe 1")
    moment.fill("240f")
    moment.press("Enter")
    settled(bench)
    (span,) = [t for t in music(made)["treatments"] if t["id"] == "under"]
    points = span["effects"][0]["params"]["high_cut_hz"]["keyframes"]
    assert [(p["at"], p["value"]) for p in points] == [(40 * FRAME, 400), (200 * FRAME, 2000)]
    # Those within a range are taken together: here the first of two, then by key both.
    y = page.locator("[data-track=music]").bounding_box()["y"] + 40
    bench.drag(bench.x_of_frame(210), y, bench.x_of_frame(300))
    page.get_by_role("button", name="Select its keyframe").click()
    page.get_by_role("heading", name="Keyframe High cut").wait_for()
    bench.drag(bench.x_of_frame(210), y, bench.x_of_frame(450))
    page.keyboard.press("Shift+K")
    page.get_by_role("heading", name="2 keyframes").wait_for()
    lane.get_by_role("button", name="Table of the lane").click()
    page.get_by_role("button", name="Remove keyframe 1").click()
    settled(bench)
    (span,) = [t for t in music(made)["treatments"] if t["id"] == "under"]
    assert len(span["effects"][0]["params"]["high_cut_hz"]["keyframes"]) == 1
