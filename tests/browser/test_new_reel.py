"""A reel from files of one's own, from the first page to the first treatment."""

import numpy as np
from conftest import Api, Bench, enter
from media import RATE


def test_from_own_files_to_a_muffled_stretch(page, server, link, files, tmp_path):
    enter(page, server.url + link("/"))
    page.get_by_role("button", name="New reel…").first.click()
    page.get_by_label("Name").fill("My first reel")
    with page.expect_file_chooser() as chooser:
        page.get_by_label("Picture").click()
    chooser.value.set_files(files["numbers.mp4"])
    with page.expect_file_chooser() as chooser:
        page.get_by_label("Sounds").click()
    chooser.value.set_files([files["song.wav"]])
    page.get_by_role("button", name="Make the reel").click()
    page.wait_for_selector(".track", timeout=60_000)
    assert page.locator(".reel-name").inner_text() == "My first reel"
    assert page.locator(".track").count() == 1

    reel = page.url.rsplit("/", 1)[1]
    api = Api(server, link("/"))
    document = api.get(f"/api/reels/{reel}")["document"]
    assert document["frame_rate"] == "25/1"
    assert document["picture"]["clips"][0]["length"] == 66 * RATE
    assert document["tracks"][0]["clips"][0]["length"] == 66 * RATE

    lane = page.locator("[data-track]").bounding_box()
    Bench(page).drag(lane["x"] + 200, lane["y"] + 30, lane["x"] + 420)
    page.get_by_role("button", name="Echo").click()
    page.wait_for_selector("[data-treatment]")
    page.get_by_role("button", name="▶ Play").click()
    page.wait_for_function("window.__tap.parts.length > 20", timeout=10_000)
    places, sound = Bench(page).heard()
    assert places.size
    assert np.abs(sound).max() > 0.01


def test_a_file_that_is_no_media_gets_a_clear_answer(page, server, link, tmp_path):
    text = tmp_path / "shopping.mp4"
    text.write_text("bread, carbide, rope\n" * 50)
    enter(page, server.url + link("/"))
    page.get_by_role("button", name="New reel…").first.click()
    page.get_by_label("Name").fill("No film")
    with page.expect_file_chooser() as chooser:
        page.get_by_label("Picture").click()
    chooser.value.set_files(text)
    page.get_by_role("button", name="Make the reel").click()
    alert = page.get_by_role("alert")
    alert.wait_for(timeout=30_000)
    assert "shopping.mp4” cannot be read" in alert.inner_text()
