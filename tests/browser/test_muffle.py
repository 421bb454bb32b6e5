"""The first thing an editor does: muffle the music from cut to cut, hear it, flip, undo, export."""

import numpy as np
import pytest
import soundfile
from media import FADE, RATE

LOUD = 10 ** (-40 / 20)


def music(made):
    return next(t for t in made.document["tracks"] if t["id"] == "music")


def muffle_between_cuts(bench):
    y = bench.lane("music")["y"] + 30
    bench.drag(bench.x_of_frame(100) + 4, y, bench.x_of_frame(250) - 3)
    bench.page.get_by_role("button", name="Muffle").click()
    bench.page.wait_for_selector("[data-treatment]")
    bench.saved()


def assert_heard(bench, expected, least):
    """Compare all that was heard with the render, aligned by timecode alone."""
    places, sound = bench.heard()
    assert places.size > least
    inside = places < expected.shape[1]
    difference = np.abs(sound[:, inside] - expected[:, places[inside]])
    assert difference.max() < 1e-6
    level = np.sqrt(np.mean(np.square(sound[:, inside])))
    assert level > LOUD
    return places


def test_drag_from_cut_to_cut_muffle_and_undo(bench, made):
    muffle_between_cuts(bench)
    span = music(made)["treatments"][0]
    assert span["start"] == 100 * 1920
    assert span["start"] + span["length"] == 250 * 1920
    assert (span["ramp_in"]["length"], span["ramp_out"]["length"]) == (3 * 1920, 6 * 1920)
    bench.page.keyboard.press("Escape")
    bench.page.locator(".timeline").click(position={"x": 5, "y": 5})
    bench.page.keyboard.press("Control+z")
    bench.page.wait_for_selector("[data-treatment]", state="detached")
    assert music(made)["treatments"] == []
    bench.page.keyboard.press("Control+Shift+z")
    bench.page.wait_for_selector("[data-treatment]")
    assert music(made)["treatments"] == [span]


@pytest.mark.in_time
def test_what_is_heard_equals_the_render_after_edits_never_exported(bench, made, tmp_path):
    page = bench.page
    muffle_between_cuts(bench)
    value = page.get_by_label("High cut, value")
    value.fill("480 Hz")
    value.press("Enter")
    bench.saved()
    # An echo on the spoken clip.
    voice = bench.lane("voice")
    page.mouse.click(bench.x_of_frame(150), voice["y"] + 30)
    page.get_by_role("button", name="Add an effect…").click()
    page.get_by_role("option", name="Echo", exact=False).first.click()
    page.wait_for_selector(".contours")
    bench.saved()
    document = made.document
    assert document["tracks"][1]["treatments"][0]["effects"][0]["params"]["high_cut_hz"] == 480
    assert document["tracks"][0]["clips"][0]["treatment"]["effects"][0]["kind"] == "echo"
    expected = made.render(tmp_path)

    bench.start_listening()
    rng = np.random.default_rng(11)
    for start in [96, 180, *rng.integers(0, 500, 2).tolist()]:
        bench.go_to(int(start))
        bench.heard()
        bench.play()
        page.wait_for_timeout(1600)
        bench.pause()
        places = assert_heard(bench, expected, RATE)
        assert start * 1920 <= places[0] <= start * 1920 + FADE
        assert (np.diff(places) == 1).all()


def test_the_echo_is_heard_after_the_clip_and_ring_out_does_what_it_says(bench, made, tmp_path):
    page = bench.page
    made.api.edit(made.id, kind="set_track", id="music", mute=True)
    page.mouse.click(bench.x_of_frame(150), bench.lane("voice")["y"] + 30)
    page.get_by_role("button", name="Add an effect…").click()
    page.get_by_role("option", name="Echo", exact=False).first.click()
    bench.saved()
    clip_end = round(7.5 * 25)
    levels = {}
    for label in ("Until silent", "Off"):
        page.get_by_text(label, exact=True).click()
        page.wait_for_timeout(300)
        bench.saved()
        bench.go_to(clip_end + 2)
        places, sound = bench.listened(0.8)
        expected = made.render(tmp_path)
        np.testing.assert_allclose(sound, expected[:, places], atol=1e-6)
        # More may have been heard where the machine is slow, and an echo dies away.
        levels[label] = float(np.sqrt(np.mean(sound[:, : round(0.8 * RATE)] ** 2)))
    assert levels["Until silent"] > 0.005
    assert levels["Off"] == 0.0


@pytest.mark.alone
def test_turning_a_control_is_heard_before_it_is_let_go(bench, made):
    page = bench.page
    muffle_between_cuts(bench)
    bench.go_to(105)
    bench.play()
    page.wait_for_timeout(400)

    def level():
        """Of a moment from now on; what is heard of a draft is not said to be a render."""
        bench.heard_at_all()
        page.wait_for_timeout(300)
        _, sound = bench.heard_at_all()
        return np.sqrt(np.mean(np.square(sound)))

    before = level()
    thumb = page.get_by_role("slider", name="Level", exact=True)
    thumb.scroll_into_view_if_needed()
    box = thumb.bounding_box()
    page.mouse.move(box["x"] + 6, box["y"] + 6)
    page.mouse.down()
    page.mouse.move(box["x"] - 30, box["y"] + 6, steps=5)
    assert any(level() < before / 4 for _ in range(8))
    # Nor is it what comes when the whole seconds of the draft are there.
    page.wait_for_timeout(500)
    assert bench.heard()[0].size == 0
    assert level() < before / 4
    revision = made.api.get(f"/api/reels/{made.id}")["revision"]
    page.mouse.up()
    bench.saved()
    bench.pause()
    assert made.api.get(f"/api/reels/{made.id}")["revision"] == revision + 1


def test_export_a_24_bit_wav_with_progress(bench, made, tmp_path):
    page = bench.page
    muffle_between_cuts(bench)
    page.get_by_role("button", name="Export…").click()
    page.get_by_role("button", name="Render", exact=True).click()
    page.get_by_role("link", name="Save").wait_for(timeout=30_000)
    with page.expect_download() as waiting:
        page.get_by_role("link", name="Save").click()
    path = tmp_path / "export.wav"
    waiting.value.save_as(path)
    info = soundfile.info(path)
    assert (info.subtype, info.samplerate, info.channels) == ("PCM_24", RATE, 2)
    found = soundfile.read(path, dtype="float64", always_2d=True)[0].T
    expected = made.render(tmp_path)
    assert found.shape == expected.shape
    assert np.abs(found - expected).max() <= 0.5001 / 2**23


@pytest.mark.parametrize("what", ["end", "ramp-out", "move"])
def test_a_treatment_is_dragged_by_its_handles(bench, made, what):
    muffle_between_cuts(bench)
    page = bench.page
    before = music(made)["treatments"][0]
    box = page.locator("[data-treatment]").bounding_box()
    if what == "move":
        y = box["y"] + 20
        bench.drag(bench.x_of_frame(180), y, bench.x_of_frame(180) + 60)
    else:
        grip = page.locator(f"[data-grip={what}]").bounding_box()
        x, y = grip["x"] + grip["width"] / 2, grip["y"] + grip["height"] / 2
        to = bench.x_of_frame(400) - 4 if what == "end" else x - 20
        bench.drag(x, y, to)
    page.wait_for_timeout(200)
    bench.saved()
    after = music(made)["treatments"][0]
    assert after["start"] % 1920 == 0
    assert after["length"] % 1920 == 0
    if what == "end":
        assert after["start"] + after["length"] == 400 * 1920
        assert after["start"] == before["start"]
    elif what == "ramp-out":
        assert after["ramp_out"]["length"] > before["ramp_out"]["length"]
        assert after["length"] == before["length"]
    else:
        assert after["start"] > before["start"]
        assert after["length"] == before["length"]
        assert after["ramp_in"] == before["ramp_in"]


def test_with_the_keyboard_alone(bench, made):
    muffle_between_cuts(bench)
    page = bench.page
    page.locator("[data-treatment]").press("Enter")
    for key, frame in (("ArrowRight", 101), ("Shift+ArrowRight", 106)):
        page.keyboard.press(key)
        for _ in range(100):
            if music(made)["treatments"][0]["start"] == frame * 1920:
                break
            page.wait_for_timeout(50)
        bench.saved()
        assert music(made)["treatments"][0]["start"] == frame * 1920
    page.keyboard.press("Delete")
    page.wait_for_selector("[data-treatment]", state="detached")
    assert music(made)["treatments"] == []
