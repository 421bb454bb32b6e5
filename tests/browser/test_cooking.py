"""Recipes in the interface: tried without a trace, used in one step, opened again."""

import numpy as np
import pytest
from media import RATE

FRAME = RATE // 25


@pytest.fixture
def recipes(bench):
    bench.page.get_by_role("tab", name="Media & sounds").click()
    bench.page.get_by_text("Recipes", exact=True).click()
    bench.page.get_by_label("Search recipes").wait_for()
    return bench.page.locator(".sounds")


def opened(bench, words, label):
    """Look for a recipe and open it; it must be the first that is found."""
    bench.page.get_by_label("Search recipes").fill(words)
    first = bench.page.locator(".sounds .sound").first
    first.locator(".sound-name", has_text=label).wait_for()
    first.locator(".sound-name").click()
    return first


def clip(made, id):
    return next(c for t in made.document["tracks"] for c in t["clips"] if c["id"] == id)


def test_what_is_tried_is_heard_and_leaves_no_trace(bench, made, recipes, tmp_path):
    page = bench.page
    before = made.document
    bench.type_frame(150)
    card = opened(bench, "call wall", "Call and answer")
    wall = card.get_by_label("Wall, value")
    wall.fill("85.8 m")
    wall.press("Enter")
    bench.start_listening()
    card.get_by_role("button", name="Try it").click()
    page.get_by_text("Trying Call and answer").wait_for()
    page.wait_for_timeout(2500)
    page.keyboard.press("Escape")
    page.get_by_text("Trying Call and answer").wait_for(state="hidden")
    assert made.document == before
    card.get_by_role("button", name="Use it").click()
    page.wait_for_function("document.querySelector('.undo, [aria-label^=Undo]') !== null")
    bench.saved()
    page.wait_for_timeout(400)
    (echo,) = clip(made, "c-voice")["treatment"]["effects"]
    assert echo["params"]["time_ms"] == pytest.approx(500, abs=1)
    places, heard = bench.played(150)
    wanted = made.render(tmp_path)[:, places]
    assert np.abs(heard - wanted).max() < 2e-6


def test_it_is_one_step_and_answers_are_changed_later(bench, made, recipes):
    page = bench.page
    bench.type_frame(150)
    card = opened(bench, "phone", "A voice from")
    card.get_by_role("combobox", name="From").select_option("radio")
    card.get_by_role("button", name="Use it").click()
    made_list = page.get_by_role("region", name="Made in this reel")
    page.get_by_label("Search recipes").fill("")
    made_list.get_by_role("button", name="A voice from").click()
    bench.saved()
    assert clip(made, "c-voice")["treatment"]["effects"][0]["params"]["bits"] == 9
    page.get_by_role("combobox", name="From").select_option("car")
    made_list.get_by_role("button", name="Change it").click()
    made_list.get_by_role("button", name="Change it").wait_for(state="hidden")
    bench.saved()
    kinds = [e["kind"] for e in clip(made, "c-voice")["treatment"]["effects"]]
    assert kinds == ["eq", "reverb"]
    assert len(made.document["made"]) == 1
    # One step back is the radio again, another one nothing.
    page.get_by_role("button", name="Undo: ").click()
    bench.saved()
    page.wait_for_timeout(300)
    kinds = [e["kind"] for e in clip(made, "c-voice")["treatment"]["effects"]]
    assert kinds == ["telephone"]
    # What was changed by hand keeps its answers.
    owner = "clip:c-voice"
    id = clip(made, "c-voice")["treatment"]["effects"][0]["id"]
    made.edit(kind="set_effect", owner=owner, id=id, params={"low_hz": 600})
    made_list.get_by_role("button", name="A voice from").click()
    made_list.get_by_text("an effect of it was changed by hand").wait_for()


def test_what_cannot_be_cooked_says_why(bench, made, recipes):
    page = bench.page
    bench.type_frame(30)
    card = opened(bench, "around head", "Around the head")
    card.get_by_role("button", name="Use it").click()
    page.get_by_text("There are no markers within this clip").wait_for()
    assert "made" not in made.document


def test_below_the_surface_lays_a_muffle_on_each_track_and_a_bed(bench, made, recipes):
    page = bench.page
    bench.type_frame(150)
    card = opened(bench, "underwater", "Below the surface")
    card.get_by_role("button", name="Use it").click()
    page.locator(".track", has_text="Beds").wait_for()
    bench.saved()
    document = made.document
    spans = [(t["name"], f) for t in document["tracks"] for f in t["treatments"]]
    assert {name for name, _ in spans} == {"Voice", "Music"}
    for _, span in spans:
        assert (span["start"], span["length"]) == (100 * FRAME, 150 * FRAME)
    (bed,) = [c for t in document["tracks"] for c in t["clips"] if c.get("bed")]
    assert (bed["start"], bed["length"]) == (100 * FRAME, 150 * FRAME)
    # Its fades are as long as the treatments' ramps at the cuts.
    assert bed["fade_in"]["length"] == spans[0][1]["ramp_in"]["length"]
    assert bed["fade_out"]["length"] == spans[0][1]["ramp_out"]["length"]
    page.get_by_role("button", name="Undo: ").click()
    bench.saved()
    page.locator(".track", has_text="Beds").wait_for(state="hidden")
