"""Recipes of one's own: made of what is selected, asked for what one chooses, used elsewhere."""

import pytest
from conftest import pressed
from media import RATE
from test_kept_presets import SPAN

FRAME = RATE // 25


@pytest.fixture
def treated(bench, made):
    """A treatment, and nothing kept yet."""
    # The account is the same for all tests.
    for path in ("/api/presets", "/api/recipes/own"):
        for line in made.api.get(path):
            made.api.delete(f"/api/presets/{line.get('preset', line)['id']}")
    made.edit(**SPAN)
    bench.page.locator("[data-treatment=f1]").press("Enter")
    return bench


def spans(made, track):
    return next(t["treatments"] for t in made.document["tracks"] if t["id"] == track)


def test_a_treatment_becomes_a_recipe_whose_questions_are_chosen(treated, made):
    page = treated.page
    page.get_by_role("button", name="More for all effects").click()
    page.get_by_role("menuitem", name="Save as a recipe").click()
    asked = page.get_by_role("group", name="What it asks")
    asked.wait_for()
    line = page.get_by_role("region", name="Your recipes").locator(".sound").first
    # It asks for what was set by hand until one chooses.
    line.get_by_label("High cut, value").wait_for()
    asked.get_by_label("Decay", exact=True).uncheck()
    line.get_by_label("Decay, value").wait_for(state="hidden")
    asked.get_by_role("button", name="All").click()
    asked.get_by_label("Strength").check()
    line.get_by_label("Strength, value").wait_for()
    word = asked.get_by_label("What High cut is called")
    word.fill("How dull")
    word.press("Enter")
    cut = line.get_by_label("How dull, value")
    cut.fill("1 kHz")
    cut.press("Enter")
    y = treated.lane("voice")["y"] + 40
    treated.drag(treated.x_of_frame(250), y, treated.x_of_frame(400))
    page.get_by_role("tab", name="Media & sounds").click()
    cut.fill("1 kHz")
    cut.press("Enter")
    before = made.document
    line.get_by_role("button", name="Try it").click()
    page.get_by_text("Trying Sump").wait_for()
    page.keyboard.press("Escape")
    page.get_by_text("Trying Sump").wait_for(state="hidden")
    assert made.document == before
    line.get_by_role("button", name="Use it").click()
    page.locator("[data-treatment]").nth(1).wait_for()
    treated.saved()
    (span,) = spans(made, "voice")
    assert span["effects"][0]["params"]["high_cut_hz"] == 1000
    assert span["effects"][1]["params"]["decay_s"] == 3.0
    assert (span["start"], span["length"]) == (250 * FRAME, 150 * FRAME)
    assert [span[k]["length"] for k in ("ramp_in", "ramp_out")] == [3 * FRAME, 6 * FRAME]
    # What it made is opened again, and its answer is another.
    there = page.get_by_role("region", name="Made in this reel").locator(".sound").first
    there.locator(".sound-name", has_text="Sump").click()
    cut = there.get_by_label("How dull, value")
    cut.fill("300 Hz")
    cut.press("Enter")
    there.get_by_role("button", name="Change it").click()
    page.wait_for_timeout(300)
    treated.saved()
    (span,) = spans(made, "voice")
    assert span["effects"][0]["params"]["high_cut_hz"] == 300


def test_it_is_found_shared_named_and_removed(treated, made):
    page = treated.page
    page.get_by_role("button", name="More for all effects").click()
    page.get_by_role("menuitem", name="Save as a recipe").click()
    line = page.get_by_role("region", name="Your recipes").locator(".sound").first
    line.get_by_role("button", name="Share on this reel").click()
    page.get_by_text("Everyone on this reel can use “Sump” now.").wait_for()
    (kept,) = made.api.get("/api/recipes/own")
    assert kept["preset"]["shared"] == [made.id]
    line.get_by_role("button", name="Stop sharing").click()
    line.get_by_role("button", name="Share on this reel").wait_for()
    name = line.get_by_label("Name", exact=True)
    name.fill("Into the sump")
    name.press("Enter")
    page.locator(".sound-name", has_text="Into the sump").wait_for()
    # It is found from anywhere, and Enter uses it.
    page.locator("[data-treatment=f1]").press("Enter")
    pressed(page, "Control+k")
    page.keyboard.type("into the sump")
    first = page.get_by_role("listbox").get_by_role("option").first
    first.filter(has_text="Recipe: Into the sump").wait_for()
    page.keyboard.press("Enter")
    page.wait_for_function("document.activeElement?.textContent === 'Use it'")
    page.keyboard.press("Enter")
    page.locator("[data-treatment]").nth(1).wait_for()
    treated.saved()
    assert len(spans(made, "music")) == 2
    page.get_by_label("Search recipes").fill("")
    line.locator(".sound-name").click()
    line.get_by_role("button", name="Remove", exact=True).click()
    page.get_by_role("region", name="Your recipes").wait_for(state="hidden")
    assert made.api.get("/api/recipes/own") == []
    # What it made stays, and says so.
    there = page.get_by_role("region", name="Made in this reel").locator(".sound").first
    there.locator(".sound-name").click()
    there.get_by_text("Its recipe is not among yours").wait_for()


def test_of_a_range_and_of_a_clip(treated, made):
    page = treated.page
    y = treated.lane("music")["y"] + 70
    treated.drag(treated.x_of_frame(40), y, treated.x_of_frame(300))
    page.get_by_role("button", name="Save as a recipe").click()
    page.get_by_role("group", name="What it asks").wait_for()
    (kept,) = made.api.get("/api/recipes/own")
    (part,) = kept["preset"]["body"]["parts"]
    assert 0.15 < part["start"] < part["end"] < 0.6
    # A clip to which nothing was done has nothing to give: that is said.
    # It is pressed: what has just been made takes the focus until somebody does something.
    page.locator("[data-clip=c-voice]").click()
    page.get_by_role("button", name="More for all effects").click()
    page.get_by_role("menuitem", name="Save as a recipe").click()
    page.get_by_text("no effects, fades or level of its own").wait_for()


def test_poses_go_to_another_treatment_as_a_preset(treated, made):
    page = treated.page
    lane = "treatment:f1/m/high_cut_hz"
    for name, value in (("dull", 300.0), ("clear", 5000.0)):
        made.edit(kind="add_pose", pose={"id": name, "name": name, "values": {lane: value}})
    page.get_by_role("button", name="Stamp poses on markers").click()
    page.get_by_role("button", name="Save the poses as a preset").click()
    page.get_by_text("Saved as “dull, clear”").wait_for()
    other = {**SPAN, "id": "f2", "name": "Bell", "start": {"frame": 250}, "end": {"frame": 350},
             "effects": [{"id": "x", "kind": "muffle", "params": {}}]}  # fmt: skip
    made.edit(**other)
    page.locator("[data-treatment=f2]").press("Enter")
    page.get_by_role("tab", name="Media & sounds").click()
    page.get_by_text("Presets", exact=True).click()
    line = page.locator(".sounds .sound").first
    line.locator(".sound-name", has_text="dull, clear").click()
    line.get_by_role("button", name="Use it").click()
    page.wait_for_timeout(300)
    treated.saved()
    values = [p["values"] for p in made.document["poses"]][2:]
    assert values == [{"treatment:f2/x/high_cut_hz": 300.0}, {"treatment:f2/x/high_cut_hz": 5000.0}]
