"""What is done once is handed on: to other clips and places, to another reel, to another server."""

import json
import zipfile

import numpy as np
import pytest
from conftest import pressed
from media import RATE

FRAME = RATE // 25


def clips(made):
    return {c["id"]: c for t in made.document["tracks"] for c in t["clips"]}


@pytest.fixture
def several(bench, made):
    """The voice in four parts, the first of them treated, and markers of two kinds."""
    made.edit(kind="split_clips", ids=["c-voice"], at={"frame": 140}, new=["v2"])
    made.edit(kind="split_clips", ids=["v2"], at={"frame": 155}, new=["v3"])
    made.edit(kind="split_clips", ids=["v3"], at={"frame": 170}, new=["v4"])
    muffle = {"id": "e1", "kind": "muffle", "params": {"high_cut_hz": 600}}
    made.edit(kind="add_effect", owner="clip:c-voice", effect=muffle)
    made.edit(kind="set_clip", id="c-voice", gain_db=-5.0)
    made.edit(kind="add_markers", markers=[
        {"id": "k1", "at": 150 * FRAME, "label": "drop", "kind": "sound"},
        {"id": "k2", "at": 165 * FRAME, "label": "drop", "kind": "note"},
    ])  # fmt: skip
    bench.page.wait_for_selector("[data-clip=v4]")
    return bench


def copying(bench, id):
    page = bench.page
    page.locator(f"[data-clip={id}]").focus()
    page.keyboard.press("Enter")
    page.get_by_role("button", name="More for all effects").click()
    page.get_by_role("menuitem", name="Copy to…").click()
    return page.get_by_role("dialog", name="Copy to…")


def test_a_clips_effects_go_to_the_clips_under_markers(several, made):
    dialog = copying(several, "c-voice")
    dialog.get_by_label("To").select_option("Clips at each marker “drop”")
    dialog.get_by_role("button", name="Copy", exact=True).click()
    dialog.wait_for(state="hidden")
    several.saved()
    now = clips(made)
    treated = {
        id for id, c in now.items() if c.get("treatment", {}).get("effects") and id != "c-voice"
    }
    assert treated == {"v2", "v3"}
    assert now["v2"].get("gain_db", 0) == 0
    several.page.keyboard.press("Control+z")
    several.saved()
    assert not clips(made)["v2"].get("treatment", {}).get("effects")


def test_all_of_it_goes_to_all_clips_of_a_track_by_keys_alone(several, made):
    page = several.page
    page.locator("[data-clip=c-voice]").focus()
    page.keyboard.press("Enter")
    pressed(page, "/")
    page.keyboard.press("Escape")
    pressed(page, "Control+k")
    page.keyboard.type("copy to")
    page.keyboard.press("Enter")
    dialog = page.get_by_role("dialog", name="Copy to…")
    dialog.get_by_label("Level").focus()
    page.keyboard.press("Space")
    dialog.get_by_label("To").focus()
    page.keyboard.type("All clips of Voice")
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    dialog.wait_for(state="hidden")
    several.saved()
    now = clips(made)
    for id in ("v2", "v3", "v4"):
        assert now[id]["gain_db"] == -5.0
        assert now[id]["treatment"]["effects"][0]["params"] == {"high_cut_hz": 600}
    assert "treatment" not in now["c-music"] or not now["c-music"]["treatment"]["effects"]


def test_recipes_and_sounds_have_their_page_of_help_and_are_shown_on_the_shelf(bench):
    page = bench.page
    for words, title, label, search in (
        ("tin roof rain", "Rain", "Help: Rain", "Search sounds"),
        ("call answer wall", "Call and answer", "Help: Call and answer", "Search recipes"),
    ):
        pressed(page, "Control+k")
        page.keyboard.type(words)
        page.get_by_text(label, exact=False).first.click()
        dialog = page.get_by_role("dialog", name=title)
        dialog.get_by_role("button", name="Show it on the shelf").click()
        assert title in page.get_by_label(search).input_value()
        page.locator(".sounds .sound-name").first.wait_for()


def test_a_reel_goes_out_as_one_file_and_comes_back(page, server, made, bench, tmp_path):
    bench.saved()
    page.goto(server.url)
    line = page.locator("li", has=page.locator(f"a[href='/reels/{made.id}']"))
    line.get_by_role("button", name="More for Numbers").click()
    with page.expect_download() as got:
        page.get_by_role("menuitem", name="Download with its media").click()
    packed = tmp_path / "numbers.zip"
    got.value.save_as(packed)
    with zipfile.ZipFile(packed) as archive:
        document = json.loads(archive.read("reel.json"))
    assert document == made.document
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Open packed reel…").click()
    chooser.value.set_files(packed)
    page.wait_for_url("**/reels/*")
    page.wait_for_selector(".track")
    again = made.api.get(page.url.replace(server.url, "").replace("/reels/", "/api/reels/"))
    assert [len(t["clips"]) for t in again["document"]["tracks"]] == [1, 1]
    ids = [m["id"] for m in again["document"]["media"]]
    assert not {*ids} & {m["id"] for m in document["media"]}
    # Its media are prepared anew, which may take a moment.
    page.wait_for_function(
        f"fetch('/api/media').then(r => r.json()).then(all =>"
        f" all.filter(m => {json.dumps(ids)}.includes(m.id)).every(m => m.state === 'ready'))",
        timeout=60_000,
        polling=500,
    )
    # What is no packed reel says so, and nothing opens.
    page.goto(server.url)
    (tmp_path / "bad.zip").write_bytes(np.random.default_rng(1).bytes(4000))
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Open packed reel…").click()
    chooser.value.set_files(tmp_path / "bad.zip")
    page.get_by_text("“bad.zip” cannot be opened: “").wait_for()


def test_a_template_asks_for_its_files(page, server, made, bench, tmp_path):
    bench.saved()
    page.goto(server.url)
    line = page.locator("li", has=page.locator(f"a[href='/reels/{made.id}']"))
    line.get_by_role("button", name="More for Numbers").click()
    known = {reel["id"] for reel in made.api.get("/api/reels")}
    page.get_by_role("menuitem", name="Use as a template").click()
    page.get_by_text("asks for its files under Media").wait_for()
    # Other runs have left reels of this name.
    (new,) = {reel["id"] for reel in made.api.get("/api/reels")} - known
    page.locator(f"a[href='/reels/{new}']").click()
    page.wait_for_selector(".track")
    page.get_by_role("tab", name="Media & sounds").click()
    card = page.locator("li", has_text="line.wav").filter(has_text="An empty place")
    voice = next(f for f in made.files.values() if f.name == "line.wav")
    with page.expect_file_chooser() as chooser:
        card.get_by_role("button", name="Choose its file…").click()
    chooser.value.set_files(voice)
    # Before it takes the place it is prepared, after whatever else waits for that.
    page.wait_for_function(
        "[...document.querySelectorAll('li.medium')].filter("
        " m => m.textContent.includes('An empty place')).length === 2",
        timeout=180_000,
    )
    assert page.locator("li.medium", has_text="line.wav").inner_text().count("An empty") == 0
