"""Several clips and treatments, across tracks, as one."""

import numpy as np
import pytest
from media import RATE

FRAME = 1920
ECHO = {"id": "e", "kind": "echo", "params": {}}


def parts(made, key):
    return {part["id"]: part for track in made.document["tracks"] for part in track.get(key, [])}


@pytest.fixture
def laid(made, request):
    """A treatment on each track, and a second clip on the voice's."""
    for id, track, start in (("f1", "voice", 100), ("f2", "music", 160)):
        made.edit(
            kind="add_treatment", track=track, id=id, name=id, start={"frame": start},
            end={"frame": start + 100}, effects=[ECHO],
        )  # fmt: skip
    song = parts(made, "clips")["c-music"]
    clip = {"id": "c-long", "media": song["media"], "name": "song.wav"}
    made.edit(
        kind="add_clip", track="voice",
        clip={**clip, "start": 20 * RATE, "length": 12 * RATE, "source_start": 0},
    )  # fmt: skip
    # Opened when all of it is there.
    bench = request.getfixturevalue("bench")
    bench.page.wait_for_selector("[data-treatment=f1]")
    return bench


def middle(page, selector):
    box = page.locator(selector).bounding_box()
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def add(page, selector):
    page.keyboard.down("Shift")
    page.mouse.click(*middle(page, selector))
    page.keyboard.up("Shift")


def chosen(page):
    return page.evaluate(
        """() => [...document.querySelectorAll('[data-chosen]')]
          .map((e) => e.dataset.clip ?? e.dataset.treatment).filter(Boolean).sort()"""
    )


def take_both(page):
    """Both treatments."""
    page.mouse.click(*middle(page, "[data-treatment=f1]"))
    add(page, "[data-treatment=f2]")


def take_all(page):
    """Both treatments and the long clip, the clip last."""
    take_both(page)
    add(page, "[data-clip=c-long] [data-grip=clip-move]")
    assert chosen(page) == ["c-long", "f1", "f2"]


def test_parts_are_added_and_taken_out_with_shift(laid):
    page = laid.page
    take_all(page)
    page.get_by_text("Together with a clip and a treatment").wait_for()
    add(page, "[data-treatment=f2]")
    assert chosen(page) == ["c-long", "f1"]
    page.get_by_role("button", name="Only this one").click()
    assert chosen(page) == ["f1"]


def test_all_move_together_and_are_one_step_back(laid, made):
    page = laid.page
    take_all(page)
    before = made.document
    spans = parts(made, "treatments")
    x, y = middle(page, "[data-treatment=f2]")
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 90, y, steps=8)
    page.wait_for_timeout(400)
    # The others are seen to come along before it is let go of.
    assert page.locator("[data-treatment=f1]").bounding_box()["x"] > laid.x_of_frame(105)
    page.mouse.up()
    laid.saved()
    page.wait_for_timeout(300)
    by = parts(made, "treatments")["f2"]["start"] - spans["f2"]["start"]
    assert by > 0
    assert by % FRAME == 0
    assert parts(made, "treatments")["f1"]["start"] == spans["f1"]["start"] + by
    assert parts(made, "clips")["c-long"]["start"] == 20 * RATE + by
    assert chosen(page) == ["c-long", "f1", "f2"]
    # By keys, and by the clip, as well.
    page.keyboard.press("Alt+ArrowRight")
    laid.saved()
    page.wait_for_timeout(500)
    now = parts(made, "treatments")["f1"]["start"] - spans["f1"]["start"]
    assert now == by + FRAME
    for _ in range(2):
        page.get_by_role("button", name="Undo: ").click()
        laid.saved()
    assert made.document == before


def test_a_value_changes_for_all_while_it_is_turned_and_in_one_step(laid, made):
    page = laid.page
    take_both(page)
    before = made.document
    card = page.get_by_role("region", name="Echo")
    card.get_by_label("Feedback, value").fill("61 %")
    card.get_by_label("Feedback, value").press("Enter")
    laid.saved()
    page.wait_for_timeout(300)
    values = [t["effects"][0]["params"]["feedback"] for t in parts(made, "treatments").values()]
    assert values == [61, 61]
    page.get_by_role("slider", name="Strength").focus()
    for _ in range(3):
        page.keyboard.press("ArrowLeft")
    page.wait_for_timeout(700)
    laid.saved()
    strengths = {t["strength"] for t in parts(made, "treatments").values()}
    assert len(strengths) == 1
    assert strengths != {100}
    for _ in range(2):
        page.get_by_role("button", name="Undo: ").click()
        laid.saved()
    assert made.document == before


def test_an_effect_is_added_to_all_and_all_are_removed(laid, made):
    page = laid.page
    take_both(page)
    page.get_by_role("button", name="Add an effect").click()
    page.keyboard.type("muffle")
    page.keyboard.press("Enter")
    page.get_by_role("region", name="Muffle").wait_for()
    laid.saved()
    page.wait_for_timeout(300)
    chains = [[e["kind"] for e in t["effects"]] for t in parts(made, "treatments").values()]
    assert chains == [["echo", "muffle"]] * 2
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("Delete")
    page.wait_for_selector("[data-treatment]", state="detached")
    laid.saved()
    page.get_by_role("button", name="Undo: ").click()
    laid.saved()
    page.wait_for_timeout(300)
    assert set(parts(made, "treatments")) == {"f1", "f2"}


def test_copies_keep_their_distances_also_of_what_has_been_taken_away(laid, made):
    page = laid.page
    take_all(page)
    page.keyboard.press("Control+x")
    page.wait_for_selector("[data-treatment]", state="detached")
    laid.type_frame(50)
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("Control+v")
    page.wait_for_selector("[data-treatment]")
    laid.saved()
    page.wait_for_timeout(300)
    for track, (start, clip) in zip(made.document["tracks"], ((50, 450), (110, None)), strict=True):
        (span,) = track["treatments"]
        assert (span["start"], span["length"]) == (start * FRAME, 100 * FRAME)
        if clip:
            laid_clip = next(c for c in track["clips"] if c["id"] != "c-voice")
            assert laid_clip["start"] == clip * FRAME
    assert len(chosen(page)) == 3


def test_the_same_range_of_several_tracks_is_treated_in_one_step(laid, made, tmp_path):
    page = laid.page
    before = made.document
    top, bottom = (laid.lane(t)["y"] + 25 for t in ("voice", "music"))
    x0, x1 = laid.x_of_frame(600), laid.x_of_frame(700)
    page.mouse.move(x0, bottom + 60)
    page.mouse.down()
    page.mouse.move(x1, top, steps=10)
    assert page.locator(".range").count() == 2
    page.mouse.up()
    page.get_by_text("on Voice and Music").wait_for()
    page.locator(".choices").get_by_role("button", name="Muffle").click()
    page.get_by_text("Together with a treatment").wait_for()
    laid.saved()
    page.wait_for_timeout(300)
    made_now = [t["treatments"][-1] for t in made.document["tracks"]]
    places = {(t["start"], t["length"], t["ramp_in"]["length"]) for t in made_now}
    assert len(places) == 1
    start = made_now[0]["start"]
    assert start % FRAME == 0
    sound, bare = made.render(tmp_path), made.render(tmp_path, "--untreated")
    inside = slice(start + 20 * FRAME, start + 60 * FRAME)
    assert np.abs(sound[:, inside] - bare[:, inside]).max() > 0.01
    page.get_by_role("button", name="Undo: ").click()
    laid.saved()
    assert made.document == before


def test_what_lies_in_a_range_is_selected_at_once(laid):
    page = laid.page
    y = laid.lane("voice")["y"] + 75
    page.mouse.move(laid.x_of_frame(50), y)
    page.mouse.down()
    page.mouse.move(laid.x_of_frame(210), laid.lane("music")["y"] + 25, steps=10)
    page.mouse.up()
    page.get_by_role("button", name="2 clips and 2 treatments").click()
    assert chosen(page) == ["c-music", "c-voice", "f1", "f2"]


def test_treatments_that_stayed_are_offered_and_brought_along(laid, made):
    page = laid.page
    made.edit(
        kind="add_treatment", track="voice", id="f3", name="Over it", start={"frame": 550},
        end={"frame": 600}, effects=[ECHO],
    )  # fmt: skip
    page.wait_for_selector("[data-treatment=f3]")
    page.mouse.click(*middle(page, "[data-clip=c-long] [data-grip=clip-move]"))
    page.keyboard.press("Alt+ArrowRight")
    page.get_by_text("“Over it” stayed where it was").wait_for()
    page.get_by_role("button", name="Bring it along").click()
    laid.saved()
    page.wait_for_timeout(400)
    assert parts(made, "treatments")["f3"]["start"] == 551 * FRAME


def test_several_are_selected_by_keys(laid):
    page = laid.page
    page.locator("[data-treatment=f1]").press("Enter")
    page.locator("[data-clip=c-long]").press("Control+Enter")
    page.locator("[data-treatment=f2]").press("Control+Enter")
    assert chosen(page) == ["c-long", "f1", "f2"]
    page.locator("[data-treatment=f1]").press("Control+Enter")
    assert chosen(page) == ["c-long", "f2"]
    page.keyboard.press("Control+a")
    assert chosen(page) == ["c-long", "c-music", "c-voice", "f1", "f2"]
