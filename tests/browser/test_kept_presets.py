"""Presets of one's own: saved from a sheet in two gestures, tried, used elsewhere, handed on."""

import json

import pytest
from media import RATE

FRAME = RATE // 25
SPAN = {
    "kind": "add_treatment", "track": "music", "id": "f1", "name": "Sump",
    "start": {"frame": 100}, "end": {"frame": 175},
    "ramp_in": {"frames": 3}, "ramp_out": {"frames": 6},
    "effects": [{"id": "m", "kind": "muffle", "params": {"high_cut_hz": 500}},
                {"id": "r", "kind": "reverb", "params": {"decay_s": 3.0}}],
}  # fmt: skip


@pytest.fixture
def saved(bench, made):
    """A treatment that has been saved from its sheet."""
    page = bench.page
    # The account is the same for all tests.
    for preset in made.api.get("/api/presets"):
        made.api.delete(f"/api/presets/{preset['id']}")
    made.edit(**SPAN)
    page.locator("[data-treatment=f1]").press("Enter")
    page.get_by_role("button", name="More for all effects").click()
    page.get_by_role("menuitem", name="Save as a preset").click()
    page.get_by_text("Saved as “Sump”").wait_for()
    page.keyboard.press("Escape")
    return bench


def presets(bench):
    bench.page.get_by_role("tab", name="Media & sounds").click()
    bench.page.get_by_text("Presets", exact=True).click()
    return bench.page.locator(".sounds .sound")


def spans(made, track):
    return next(t["treatments"] for t in made.document["tracks"] if t["id"] == track)


def test_a_treatment_is_saved_in_two_gestures_and_used_on_a_range(saved, made):
    page = saved.page
    y = saved.lane("voice")["y"] + 40
    saved.drag(saved.x_of_frame(250), y, saved.x_of_frame(400))
    line = presets(saved).first
    line.locator(".sound-name", has_text="Sump").click()
    line.get_by_text("Treats the range that is selected.").wait_for()
    line.get_by_role("button", name="Use it").click()
    page.locator("[data-treatment]").nth(1).wait_for()
    saved.saved()
    (span,) = spans(made, "voice")
    assert span["name"] == "Sump"
    assert [e["kind"] for e in span["effects"]] == ["muffle", "reverb"]
    assert span["ramp_in"]["length"] == 3 * FRAME
    assert span["ramp_out"]["length"] == 6 * FRAME
    # What is tried leaves no trace.
    before = made.document
    line.get_by_role("button", name="Try it").click()
    page.get_by_text("Trying Sump").wait_for()
    page.keyboard.press("Escape")
    page.get_by_text("Trying Sump").wait_for(state="hidden")
    assert made.document == before


def test_it_is_named_tagged_found_updated_handed_on_and_removed(saved, made):
    page = saved.page
    line = presets(saved).first
    line.locator(".sound-name", has_text="Sump").click()
    name = line.get_by_label("Name", exact=True)
    name.fill("Below")
    name.press("Enter")
    page.locator(".sound-name", has_text="Below").first.wait_for()
    tags = page.get_by_label("Tags")
    tags.fill("cave, wet")
    tags.press("Enter")
    page.get_by_role("button", name="Favourite: Below").click()
    page.get_by_label("Search presets").fill("wet")
    page.locator(".sound-name", has_text="Below").first.wait_for()
    with page.expect_download() as found:
        page.get_by_role("button", name="Export", exact=True).click()
    file = json.loads(found.value.path().read_text())
    assert file["presets"][0]["tags"] == ["cave", "wet"]
    page.get_by_role("button", name="Remove", exact=True).click()
    page.get_by_text("No preset matches “wet”.").wait_for()
    # The file brings it back.
    with page.expect_file_chooser() as chosen:
        page.get_by_role("button", name="Import presets…").click()
    chosen.value.set_files(
        {"name": "below.json", "mimeType": "application/json", "buffer": json.dumps(file).encode()}
    )
    page.locator(".sound-name", has_text="Below").first.wait_for()
    with page.expect_file_chooser() as chosen:
        page.get_by_role("button", name="Import presets…").click()
    chosen.value.set_files(
        {"name": "x.json", "mimeType": "application/json", "buffer": b"not json"}
    )
    page.get_by_text("“x.json” is no file of presets.").wait_for()


def test_one_effect_is_saved_and_added_to_a_clip(saved, made):
    page = saved.page
    page.locator("[data-treatment=f1]").press("Enter")
    page.get_by_role("button", name="More for Reverb").click()
    page.get_by_role("menuitem", name="Save as a preset").click()
    page.get_by_text("Saved as “Reverb”").wait_for()
    page.keyboard.press("Escape")
    page.locator("[data-clip=c-voice]").press("Enter")
    lines = presets(saved)
    page.get_by_label("Search presets").fill("reverb effect")
    lines.first.locator(".sound-name", has_text="Reverb").click()
    lines.first.get_by_role("button", name="Use it").click()
    page.wait_for_timeout(600)
    saved.saved()
    voice = next(t for t in made.document["tracks"] if t["id"] == "voice")
    (effect,) = voice["clips"][0]["treatment"]["effects"]
    assert (effect["kind"], effect["params"]) == ("reverb", {"decay_s": 3.0})


def test_a_sound_is_kept_as_it_is_set_and_laid_elsewhere(bench, made):
    page = bench.page
    for preset in made.api.get("/api/presets"):
        made.api.delete(f"/api/presets/{preset['id']}")
    page.get_by_role("tab", name="Media & sounds").click()
    page.get_by_text("Sounds", exact=True).click()
    page.get_by_label("Search sounds").fill("rain")
    first = page.locator(".sounds .sound").first
    first.locator(".sound-name").click()
    name = first.locator(".sound-name").inner_text().split("\n")[0]
    level = first.get_by_label("Level, value")
    level.fill("-6 dB")
    level.press("Enter")
    first.get_by_role("button", name="Another take").click()
    first.get_by_role("button", name="Save as a preset").click()
    page.get_by_text(f"Saved as “{name}”").wait_for()
    page.get_by_text("Presets", exact=True).click()
    line = page.locator(".sounds .sound").first
    line.locator(".sound-name", has_text=name).click()
    line.get_by_text("A bed is laid over").wait_for()
    bench.go_to(150)
    line.get_by_role("button", name="Lay it").click()
    page.locator("[data-clip]").nth(2).wait_for(timeout=30_000)
    bench.saved()
    bed = next(c for t in made.document["tracks"] for c in t["clips"] if c.get("bed"))
    assert (bed["start"], bed["gain_db"]) == (100 * FRAME, -6)
    (kept,) = made.api.get("/api/presets")
    assert kept["sound"]["seed"] == 2


def test_one_walks_through_ones_own_presets_by_two_keys(saved, made):
    page = saved.page
    before = made.document
    for name in ("Deep", "Far"):
        body = {"reel": made.id, "kind": "treatment", "owner": "treatment:f1", "name": name}
        made.api.post("/api/presets", body)
    y = saved.lane("voice")["y"] + 40
    saved.drag(saved.x_of_frame(250), y, saved.x_of_frame(400))
    lines = presets(saved)
    lines.nth(2).wait_for()
    names = [line.locator(".sound-name").inner_text().split("\n")[0] for line in lines.all()]
    page.locator("body").click(position={"x": 640, "y": 790})
    for key, name in (("n", names[0]), ("n", names[1]), ("n", names[2]), ("Shift+n", names[1])):
        page.keyboard.press(key)
        page.get_by_text(f"Trying {name}").wait_for()
    page.keyboard.press("Escape")
    page.get_by_text("Trying").wait_for(state="hidden")
    assert made.document == before
    page.keyboard.press("n")
    page.get_by_text(f"Trying {names[2]}").wait_for()
    page.keyboard.press("Enter")
    saved.saved()
    (span,) = spans(made, "voice")
    assert span["name"] == names[2]
