"""Sounds that ship: found, listened to, tried under the picture, laid as hits and as beds."""

import re

import numpy as np
import pytest
import soundfile
from media import RATE

from bathyphon.core.sounds.made import make
from bathyphon.core.sounds.shelf import SOUNDS
from bathyphon.formats.computed import written

FRAME = RATE // 25


@pytest.fixture
def sounds(bench):
    """The list of sounds, nothing searched for yet."""
    bench.page.get_by_role("tab", name="Media & sounds").click()
    bench.page.get_by_text("Sounds", exact=True).click()
    bench.page.get_by_label("Search sounds").wait_for()
    return bench.page.locator(".sounds")


def opened(bench, sounds, words, id):
    """Look for a sound and open it; it must be the first that is found."""
    name = SOUNDS[id].shipped.name
    bench.page.get_by_label("Search sounds").fill(words)
    first = sounds.locator(".sound").first
    first.locator(".sound-name", has_text=name).wait_for()
    first.locator(".sound-name").click()
    return first


def laid(bench, line, button):
    """Lay it: its clip is made, and selected then."""
    line.get_by_role("button", name=button).click()
    bench.page.locator(".clip-fields").wait_for()
    bench.saved()


def ready(bench, name):
    """Wait until the page knows that a medium can be heard."""
    bench.page.get_by_role("tab", name="Media & sounds").click()
    bench.page.get_by_text("In this reel", exact=True).click()
    card = bench.page.locator(f".medium[aria-label='{name}']")
    card.get_by_text("LUFS").wait_for(timeout=60000)
    card.get_by_text("prepared").wait_for(state="hidden", timeout=60000)


def beds(made):
    return [c for t in made.document["tracks"] for c in t["clips"] if c.get("bed")]


def as_file(made, clip, id, folder, seconds, **settings):
    """The medium of a laid sound as its file, so that the command line renders the same reel."""
    sound = SOUNDS[id]
    values = {**sound.shipped.settings, **settings}
    path = folder / f"{clip['media']}.sound"
    path.write_bytes(written(make(sound.model.id, values, 1, seconds, sound.shipped.name)))
    made.files[clip["media"]] = path


def test_a_bed_is_laid_over_the_shot_one_is_in(bench, made, sounds):
    page = bench.page
    bench.type_frame(180)
    rain = opened(bench, sounds, "tin roof", "rain/rain-on-a-tin-roof")
    rain.get_by_text("Over this shot").wait_for()
    laid(bench, rain, "Lay as a bed")
    (bed,) = beds(made)
    assert (bed["start"], bed["length"]) == (100 * FRAME, 150 * FRAME)
    assert bed["name"] == "Rain on a tin roof"
    # It is selected, and says what it does.
    page.get_by_label("Follows its cuts").wait_for()
    # A second one over the next shot crosses with it, on the same track.
    page.keyboard.press("Escape")
    page.get_by_role("tab", name="Media & sounds").click()
    bench.type_frame(300)
    deep = opened(bench, sounds, "the deep", "underwater/the-deep")
    laid(bench, deep, "Lay as a bed")
    one, two = beds(made)
    assert two["start"] == 250 * FRAME
    both = one["start"] + one["length"] - two["start"]
    assert both == one["fade_out"]["length"] == two["fade_in"]["length"] > 0
    # The cut moves, and both go with it.
    made.edit(kind="move_cut", frame=250, to=260)
    one, two = beds(made)
    assert two["start"] == 260 * FRAME
    assert one["start"] + one["length"] == 260 * FRAME + both


def test_a_laid_bed_is_heard_as_the_command_line_renders_it(bench, made, sounds, tmp_path):
    bench.type_frame(120)
    wind = opened(bench, sounds, "hillside wind", "wind/hillside-wind")
    level = wind.get_by_label("Level, value")
    level.fill("+6 dB")
    level.press("Enter")
    strength = wind.get_by_label("Strength, value")
    strength.fill("80 %")
    strength.press("Enter")
    laid(bench, wind, "Lay as a bed")
    (bed,) = beds(made)
    assert bed["gain_db"] == 6
    ready(bench, "Hillside wind.sound")
    as_file(made, bed, "wind/hillside-wind", tmp_path, 60.0, strength=80.0)
    whole = made.render(tmp_path)
    places, heard = bench.played(130)
    assert places.size > RATE // 2
    wanted = whole[:, places]
    assert np.abs(heard - wanted).max() < 2e-6
    without = made.render(tmp_path, "--untreated")
    assert without.shape == whole.shape


def test_what_is_tried_leaves_no_trace_and_enter_keeps_it(bench, made, sounds):
    page = bench.page
    before = made.document
    bench.type_frame(300)
    drone = opened(bench, sounds, "low dread", "drone/low-dread")
    drone.get_by_text(re.compile(r"The mix there is at −\d")).wait_for()
    drone.get_by_role("button", name="Try it under the picture").click()
    bar = page.get_by_text("Trying Low dread")
    bar.wait_for(timeout=60000)
    page.get_by_role("button", name="Pause").wait_for()
    page.get_by_role("button", name="Cancel (Esc)").click()
    bar.wait_for(state="hidden")
    assert {**made.document, "media": before["media"]} == before
    drone.get_by_role("button", name="Try it under the picture").click()
    bar.wait_for(timeout=60000)
    page.get_by_role("button", name="Use it (Enter)").click()
    bench.saved()
    (bed,) = beds(made)
    assert (bed["start"], bed["length"]) == (250 * FRAME, 150 * FRAME)


def test_a_hit_is_laid_at_the_playhead_and_dragged_to_a_track(bench, made, sounds):
    page = bench.page
    bench.type_frame(140)
    knock = opened(bench, sounds, "hull", "knock/knock-on-the-hull")
    laid(bench, knock, "Lay at the playhead")
    track = made.document["tracks"][-1]
    assert track["name"] == "Knock on the hull"
    assert track["clips"][0]["start"] == 140 * FRAME
    page.keyboard.press("Escape")
    page.get_by_role("tab", name="Media & sounds").click()
    boom = opened(bench, sounds, "deep impact", "impact/deep-impact")
    grip = boom.locator(".sound-grip").bounding_box()
    lane = bench.lane("voice")
    page.mouse.move(grip["x"] + 8, grip["y"] + 10)
    page.mouse.down()
    page.mouse.move(grip["x"] + 40, grip["y"] + 10, steps=3)
    page.wait_for_timeout(700)
    page.mouse.move(bench.x_of_frame(400), lane["y"] + 20, steps=8)
    page.wait_for_timeout(400)
    page.mouse.move(bench.x_of_frame(400) + 1, lane["y"] + 20, steps=2)
    page.wait_for_timeout(400)
    page.mouse.up()
    bench.saved()
    voice = next(t for t in made.document["tracks"] if t["id"] == "voice")
    dropped = next(c for c in voice["clips"] if c["name"] == "Deep impact")
    # It snaps to the cut.
    assert dropped["start"] == 400 * FRAME


def test_a_bed_ducks_and_becomes_longer(bench, made, sounds):
    page = bench.page
    bench.type_frame(180)
    rain = opened(bench, sounds, "drizzle", "rain/drizzle-on-leaves")
    laid(bench, rain, "Lay as a bed")
    page.get_by_label("Duck its track under").select_option(label="Voice")
    bench.saved()
    track = next(t for t in made.document["tracks"] if t["name"] == "Beds")
    (duck,) = track["treatment"]["effects"]
    assert (duck["kind"], duck["params"]["track"]) == ("duck", "voice")
    (bed,) = beds(made)
    made.api.ready(bed["media"])
    # Drawn out past its minute of sound.
    made.edit(kind="set_clip", id=bed["id"], length=70 * RATE)
    page.get_by_role("button", name="Make it longer").click()
    bench.saved()
    page.get_by_role("button", name="Make it longer").wait_for(state="hidden")
    (longer,) = beds(made)
    assert longer["media"] != bed["media"]
    assert longer["source_start"] == bed["source_start"]
    line = made.api.ready(longer["media"])
    assert line["info"]["sound"]["samples"] >= longer["source_start"] + longer["length"]


@pytest.mark.parametrize(
    ("words", "id", "button"),
    [
        ("drizzle", "rain/drizzle-on-leaves", "Lay as a bed"),
        ("knock", "knock/knock-at-a-door", "Lay at the playhead"),
    ],
)
def test_nothing_moves_away_under_the_hand_while_it_is_measured(bench, sounds, words, id, button):
    page = bench.page

    def later(route):
        page.wait_for_timeout(400)
        route.continue_()

    bench.type_frame(180)
    page.route(re.compile(r"/(stretch|levels)\b"), later)
    line = opened(bench, sounds, words, id)
    aim = line.get_by_role("button", name=button)
    before = aim.bounding_box()
    line.get_by_text("The mix there is at").wait_for()
    assert aim.bounding_box() == before


def test_listening_to_one_stops_the_other(bench, made, sounds):
    page = bench.page
    page.get_by_label("Search sounds").fill("knock")
    page.get_by_role("button", name="Listen to Knock at a door").click()
    page.get_by_role("button", name="Stop listening to Knock at a door").wait_for()
    page.get_by_role("button", name="Listen to Knock on the hull").click()
    page.get_by_role("button", name="Stop listening to Knock on the hull").wait_for()
    page.get_by_role("button", name="Listen to Knock at a door").wait_for()
    # It ends by itself.
    page.get_by_role("button", name="Listen to Knock on the hull").wait_for(timeout=15000)


def test_what_nothing_is_called_is_told_and_kinds_are_kept_apart(bench, sounds):
    page = bench.page
    page.get_by_label("Search sounds").fill("xylograph")
    page.get_by_text("No sound matches “xylograph”.").wait_for()
    page.get_by_label("Search sounds").fill("")
    page.get_by_text("Hits", exact=True).click()
    page.locator(".sound-name", has_text="Deep impact").wait_for()
    assert sounds.locator(".sound-name", has_text="Campfire").count() == 0


def test_a_folder_of_ones_own_is_brought_in_found_tagged_and_laid(bench, made, tmp_path):
    page = bench.page
    # The account is the same for all tests.
    for sound in made.api.get("/api/sounds/own")["sounds"]:
        made.api.delete(f"/api/sounds/own/{sound['id']}")
    library = tmp_path / "Library"
    for folder, name, seed in (("Doors", "creak.wav", 1), ("Water", "gurgle.wav", 2)):
        (library / folder).mkdir(parents=True)
        x = 0.1 * np.random.default_rng(seed).standard_normal((RATE, 2))
        soundfile.write(library / folder / name, x, RATE, "PCM_16")
    (library / "notes.txt").write_text("no sound")
    page.get_by_role("tab", name="Media & sounds").click()
    page.get_by_text("Sounds", exact=True).click()
    page.get_by_text("Mine", exact=True).click()
    page.get_by_label("Folder of sounds").set_input_files(library)
    lines = page.locator(".sounds .sound")
    lines.nth(1).wait_for(timeout=30_000)
    page.get_by_label("Search sounds").fill("water")
    page.wait_for_function("document.querySelectorAll('.sounds .sound').length === 1")
    gurgle = lines.first
    gurgle.get_by_text("Library/Water").wait_for()
    gurgle.locator(".sound-name").click()
    gurgle.get_by_text(re.compile(r"s · .*LUFS")).wait_for(timeout=30_000)
    tags = gurgle.get_by_label("Tags")
    tags.fill("cold, small")
    tags.press("Enter")
    page.get_by_label("Search sounds").fill("small")
    gurgle.get_by_text("cold · small").wait_for()
    bench.type_frame(200)
    # Heard in its place first, beside the level of the mix there; that leaves no trace.
    before = made.document
    gurgle.get_by_text(re.compile(r"The mix there is at −\d")).wait_for(timeout=20_000)
    gurgle.get_by_role("button", name="Try it under the picture").click()
    page.get_by_text("Trying gurgle.wav").wait_for()
    page.get_by_role("button", name="Cancel (Esc)").click()
    page.get_by_text("Trying gurgle.wav").wait_for(state="hidden")
    assert made.document == before
    gurgle.get_by_role("button", name="Lay at the playhead").click()
    page.locator("[data-clip]").nth(2).wait_for()
    bench.saved()
    clip = next(c for t in made.document["tracks"] for c in t["clips"] if c["start"] == 200 * FRAME)
    assert clip["length"] == RATE
    assert "gurgle.wav" in [m["path"] for m in made.document["media"]]
    # It is there for the timeline too, at once.
    drawn = page.locator(f"[data-clip={clip['id']}]")
    assert "being prepared" not in drawn.inner_text()
