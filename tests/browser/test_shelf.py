"""The shelf: sounds are laid whole or in part, and clips go to other reels."""

import pytest
from conftest import Made
from media import RATE


@pytest.fixture
def shelf(bench):
    bench.page.get_by_role("tab", name="Media & sounds").click()
    return bench.page.locator(".medium[aria-label='line.wav']")


def clips(made, track):
    return next(t["clips"] for t in made.document["tracks"] if t["id"] == track)


def test_a_part_is_chosen_on_the_wave_and_laid_on_the_selected_track(bench, made, shelf):
    page = bench.page
    page.locator(".chain-button[aria-label*='all of Voice']").click()
    page.get_by_role("tab", name="Media & sounds").click()
    bench.type_frame(300)
    box = shelf.get_by_test_id("medium-wave").bounding_box()
    y = box["y"] + box["height"] / 2
    page.keyboard.down("Shift")
    bench.drag(box["x"] + box["width"] * 0.25, y, box["x"] + box["width"] * 0.75)
    page.keyboard.up("Shift")
    shelf.get_by_role("button", name="Lay the part at the playhead").click()
    bench.saved()
    laid = clips(made, "voice")[-1]
    whole = round(2.5 * RATE)
    assert laid["start"] == 300 * 1920
    assert abs(laid["source_start"] - 0.25 * whole) < 0.02 * whole
    assert abs(laid["length"] - 0.5 * whole) < 0.02 * whole
    # The same once more, by the key alone, and whole on a track of its own.
    page.keyboard.press("Escape")
    page.get_by_role("tab", name="Media & sounds").click()
    shelf.focus()
    page.keyboard.press("Enter")
    bench.saved()
    assert [t["name"] for t in made.document["tracks"]][-1] == "line"
    assert len(clips(made, "voice")) == 2


def test_below_all_tracks_it_gets_one_of_its_own(bench, made, shelf):
    page = bench.page
    box = shelf.get_by_test_id("medium-wave").bounding_box()
    below = page.locator(".track-add").bounding_box()
    page.mouse.move(box["x"] + 60, box["y"] + 12)
    page.mouse.down()
    page.mouse.move(bench.x_of_frame(330), below["y"] + 40, steps=6)
    page.get_by_role("region", name="Track line", exact=True).wait_for()
    # The track that is drawn for it lies under the pointer now.
    page.mouse.move(bench.x_of_frame(331), below["y"] + 30, steps=4)
    page.wait_for_timeout(300)
    page.mouse.move(bench.x_of_frame(330), below["y"] + 30, steps=4)
    page.mouse.up()
    bench.saved()
    (laid,) = made.document["tracks"][-1]["clips"]
    assert abs(laid["start"] - 330 * 1920) < 8 * 1920


def test_only_what_nothing_uses_can_be_removed(bench, made, shelf):
    page = bench.page
    assert shelf.get_by_role("button", name="Remove").count() == 0
    made.edit(kind="remove_clips", ids=["c-voice"])
    shelf.get_by_role("button", name="Remove").click()
    bench.saved()
    assert "line.wav" not in [m["path"] for m in made.document["media"]]
    page.get_by_role("button", name="Undo: ").click()
    bench.saved()
    assert "line.wav" in [m["path"] for m in made.document["media"]]


def test_a_medium_is_listened_to_and_stops(bench, shelf):
    page = bench.page
    asked = []
    page.on("request", lambda r: asked.append(r.url) if r.url.endswith("sound.wav") else None)
    shelf.get_by_role("button", name="Listen to line.wav").click()
    stop = shelf.get_by_role("button", name="Stop listening to line.wav")
    stop.wait_for()
    page.wait_for_timeout(300)
    assert len(asked) == 1
    stop.click()
    shelf.get_by_role("button", name="Listen to line.wav").wait_for()


def test_clips_that_are_cut_come_back_and_copied_ones_go_to_another_reel(bench, made, server):
    page = bench.page
    bench.type_frame(400)
    page.locator("[data-clip=c-voice]").focus()
    page.keyboard.press("Enter")
    page.keyboard.press("Control+x")
    page.wait_for_selector("[data-clip=c-voice]", state="detached")
    page.keyboard.press("Control+v")
    bench.saved()
    page.wait_for_timeout(300)
    (back,) = clips(made, "voice")
    assert (back["start"], back["length"]) == (400 * 1920, round(2.5 * RATE))
    # Into a reel that does not have the medium yet.
    other = Made(made.api.post("/api/reels", {"name": "Other"})["id"], made.api, made.files)
    page.goto(f"{server.url}/reels/{other.id}")
    page.get_by_text("Add a track").wait_for()
    page.keyboard.press("Control+v")
    page.wait_for_selector("[data-clip]")
    bench.saved()
    document = other.document
    assert [m["path"] for m in document["media"]] == ["line.wav"]
    (pasted,) = document["tracks"][0]["clips"]
    assert (pasted["start"], pasted["length"]) == (0, back["length"])
    # One step, whatever it took.
    page.get_by_role("button", name="Undo: ").click()
    bench.saved()
    assert other.document.get("tracks") == []
    assert other.document["media"] == []


def test_the_column_and_the_picture_are_made_larger_and_that_is_remembered(bench):
    page = bench.page

    def size():
        box = page.locator(".picture").bounding_box()
        return round(box["width"]), round(box["height"])

    before = size()
    page.get_by_role("separator", name="Width of the left column").focus()
    for _ in range(3):
        page.keyboard.press("ArrowRight")
    edge = page.get_by_role("separator", name="Height of the picture").bounding_box()
    bench.drag(edge["x"] + 90, edge["y"], edge["x"] + 90, edge["y"] + 60)
    wide, high = size()
    assert wide == before[0] + 48
    assert abs(high - before[1] - 60) <= 2
    page.reload()
    page.wait_for_selector(".track")
    assert size() == (wide, high)
    page.get_by_role("separator", name="Width of the left column").dblclick()
    assert size()[0] == before[0]
