"""Values, places and effects as they are typed: kept, given up, or refused with the reason."""

from __future__ import annotations

import math

import pytest
from conftest import Held, pressed

FRAME = 1920
MUFFLE = {"id": "m", "kind": "muffle", "params": {"high_cut_hz": 900.0}}


@pytest.fixture
def span(bench, made):
    """A treatment of the music, selected, its Muffle open."""
    made.edit(
        kind="add_treatment", track="music", id="f1", name="Under",
        start={"frame": 100}, end={"frame": 250}, effects=[MUFFLE],
    )  # fmt: skip
    bench.page.locator("[data-treatment=f1]").focus()
    bench.page.keyboard.press("Enter")
    bench.page.get_by_label("High cut, value").wait_for()
    return lambda: made.document["tracks"][1]["treatments"][0]


def typed(bench, label, text, key="Enter"):
    field = bench.page.get_by_label(label, exact=True)
    field.fill(text)
    field.press(key)
    bench.page.wait_for_timeout(250)
    bench.saved()
    return field


def test_a_wrong_unit_is_refused_with_the_reason_and_nothing_is_changed(bench, span):
    page = bench.page
    field = typed(bench, "High cut, value", "75 %")
    page.get_by_text("Give High cut in Hz or kHz, such as 620 Hz, not as “75 %”.").first.wait_for()
    # It is still there to be put right.
    assert field.input_value() == "75 %"
    assert field.get_attribute("aria-invalid") == "true"
    assert span()["effects"][0]["params"]["high_cut_hz"] == 900
    typed(bench, "High cut, value", "1.2 kHz")
    assert span()["effects"][0]["params"]["high_cut_hz"] == 1200
    assert field.input_value() == "1200 Hz"
    typed(bench, "High cut, value", "30 kHz")
    page.get_by_text("must be between 60 Hz and 20000 Hz").first.wait_for()
    # Who leaves it so is told, and finds what was there before.
    page.get_by_label("Level, value").focus()
    page.get_by_role("alert").filter(has_text="must be between").wait_for()
    assert field.input_value() == "1200 Hz"
    assert span()["effects"][0]["params"]["high_cut_hz"] == 1200


def test_enter_and_escape_leave_the_field_so_that_keys_work_at_once(bench, made, span):
    page = bench.page
    typed(bench, "High cut, value", "500")
    page.keyboard.press("m")
    page.wait_for_timeout(300)
    bench.saved()
    assert len(made.document["markers"]) == 1
    field = typed(bench, "High cut, value", "700", "Escape")
    assert field.input_value() == "500 Hz"
    page.keyboard.press("m")
    page.wait_for_timeout(300)
    assert span()["effects"][0]["params"]["high_cut_hz"] == 500
    # What is selected stays so.
    assert field.is_visible()


def test_levels_take_percent_and_silence(bench, made, span):
    typed(bench, "Level of Voice", "50 %")
    assert made.document["tracks"][0]["gain_db"] == pytest.approx(20 * math.log10(0.5))
    typed(bench, "Level of Voice", "silent")
    assert made.document["tracks"][0]["gain_db"] == -96
    field = typed(bench, "Level of Voice", "3 st")
    assert field.get_attribute("aria-invalid") == "true"
    assert made.document["tracks"][0]["gain_db"] == -96


def test_places_are_typed(bench, made, span):
    typed(bench, "Start", "00:00:08:00")
    assert (span()["start"], span()["length"]) == (200 * FRAME, 150 * FRAME)
    typed(bench, "In", "+10")
    assert (span()["start"], span()["length"]) == (210 * FRAME, 140 * FRAME)
    typed(bench, "Out", "-15 f")
    assert (span()["start"], span()["length"]) == (210 * FRAME, 125 * FRAME)
    typed(bench, "Duration", "80 %")
    assert (span()["start"], span()["length"]) == (210 * FRAME, 100 * FRAME)
    typed(bench, "Duration", "2 s")
    assert span()["length"] == 50 * FRAME
    field = typed(bench, "Duration", "long")
    assert field.get_attribute("aria-invalid") == "true"
    field.press("Escape")
    bench.page.get_by_label("Track", exact=True).select_option("voice")
    bench.page.wait_for_timeout(400)
    bench.saved()
    document = made.document
    assert document["tracks"][1]["treatments"] == []
    (moved,) = document["tracks"][0]["treatments"]
    assert (moved["start"], moved["length"], moved["name"]) == (210 * FRAME, 50 * FRAME, "Under")
    # It is the same one: lanes, poses and what is selected still mean it.
    assert moved["id"] == "f1"
    assert bench.page.locator("[data-treatment=f1][data-chosen]").count() == 1


def test_an_effect_with_its_values_is_found_typed_and_shown_before_it_is_taken(bench, span):
    page = bench.page
    pressed(page, "/")
    page.get_by_label("Search effects").wait_for()
    page.keyboard.type("reverb 500 Hz")
    why = page.get_by_role("option", name="Reverb").first
    page.get_by_text("“500 Hz” could be Low cut or High cut: name the one you mean.").wait_for()
    assert why.get_attribute("aria-disabled") == "true"
    page.keyboard.press("Enter")
    page.wait_for_timeout(300)
    assert len(span()["effects"]) == 1
    page.keyboard.press("Control+a")
    page.keyboard.type("frobnicate")
    page.get_by_text("No effect matches “frobnicate”.").wait_for()
    page.keyboard.press("Control+a")
    page.keyboard.type("hall 3s ramps 4f")
    page.get_by_text("Decay 3 s, ramps 4 f").first.wait_for()
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Presets: Great chamber").wait_for(state="hidden")
    bench.saved()
    found = span()
    assert found["ramp_in"]["length"] == found["ramp_out"]["length"] == 4 * FRAME
    params = found["effects"][1]["params"]
    # As the preset sets it, but for what was typed.
    assert (params["decay_s"], params["size"], params["mix"]) == (3, 150, 42)


def test_a_preset_names_itself_and_is_reset(bench, span):
    page = bench.page
    page.get_by_role("button", name="Presets").click()
    page.get_by_role("menuitem", name="Deep").click()
    page.get_by_role("button", name="Presets: Deep").wait_for()
    bench.saved()
    page.get_by_role("button", name="More for Muffle").click()
    page.get_by_role("menuitem", name="Reset", exact=True).click()
    page.get_by_role("button", name="Presets", exact=True).wait_for()
    bench.saved()
    assert span()["effects"][0]["params"] == {}


SHORTCUTS = "Keyboard shortcuts and gestures"


def test_enter_does_what_all_letters_say_however_late_the_answers_are(bench, span):
    page = bench.page
    late = Held(page, "**/found?text=shortcuts*")
    pressed(page, "Control+k")
    page.keyboard.type("short")
    first = page.get_by_role("listbox").get_by_role("option").first
    first.filter(has_text="Short slaps").wait_for()
    # What was found of fewer letters is not meant any more, and a command is there at once.
    page.keyboard.type("cuts")
    page.keyboard.press("Enter")
    page.get_by_role("dialog", name=SHORTCUTS).wait_for()
    assert page.get_by_label("Search effects").count() == 0
    late.let_all_go()


def test_what_only_the_server_finds_enter_waits_for_and_does_once(bench, made, span):
    page = bench.page
    late = Held(page, "**/found?text=church*")
    pressed(page, "Control+k")
    page.keyboard.type("church")
    for _ in range(3):
        page.keyboard.press("Enter")
    page.wait_for_timeout(300)
    assert page.get_by_label("Search everything").is_visible()
    late.let_all_go()
    page.get_by_label("Search effects").wait_for()
    page.get_by_role("option", name="Long nave").wait_for()
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Presets: Long nave").wait_for()
    bench.saved()
    assert [e["kind"] for e in span()["effects"]] == ["muffle", "reverb"]


def test_a_server_on_this_machine_answers_with_the_network_away(bench, span):
    page = bench.page
    page.evaluate("window.dispatchEvent(new Event('offline'))")
    pressed(page, "Control+k")
    page.keyboard.type("church")
    page.get_by_role("option", name="Long nave").wait_for()


def test_commands_and_effects_are_searched_together(bench, made, span):
    page = bench.page
    pressed(page, "Control+k")
    page.get_by_label("Search everything").wait_for()
    page.keyboard.type("slice")
    first = page.get_by_role("listbox").get_by_role("option").first
    first.filter(has_text="Split clips at the playhead").wait_for()
    page.keyboard.press("Control+a")
    page.keyboard.type("church")
    first.filter(has_text="Long nave").wait_for()
    page.keyboard.press("Enter")
    # It is offered where it will be added, and taken by another Enter.
    page.get_by_label("Search effects").wait_for()
    first.filter(has_text="Long nave").wait_for()
    page.wait_for_timeout(300)
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Presets: Long nave").wait_for()
    bench.saved()
    assert [e["kind"] for e in span()["effects"]] == ["muffle", "reverb"]
