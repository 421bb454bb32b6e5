"""The reel against other states of it: equally loud, in step, and nothing changed thereby."""

import re

import numpy as np
import pytest
import soundfile
from conftest import open_card
from media import RATE

from bathyphon.core.measure.levels import levels_of
from bathyphon.core.measure.tally import tally

SPAN = {
    "kind": "add_treatment", "track": "music", "id": "dull", "name": "Dull",
    "start": {"frame": 0}, "end": {"frame": 500},
    "effects": [
        {"id": "m", "kind": "muffle", "params": {"high_cut_hz": 700}},
        {"id": "g", "kind": "gain", "params": {"level_db": -5}},
    ],
}  # fmt: skip


@pytest.fixture
def dull(made, page, server):
    """Music under a muffle and a gain, the reel open."""
    from conftest import Bench

    made.edit(**SPAN)
    page.context.add_cookies(made.api.cookies())
    page.goto(f"{server.url}/reels/{made.id}")
    page.wait_for_selector("[data-treatment=dull]")
    return Bench(page)


def other(bench):
    return bench.page.get_by_role("radiogroup", name="Which sound is heard").locator(".other-side")


def hold_against(bench, label):
    bench.page.get_by_role("button", name="What to compare with").click()
    bench.page.get_by_role("menuitem", name=label, exact=True).click()
    # As it goes it gives the focus back: what is opened before that would lose it.
    bench.page.get_by_role("menu").wait_for(state="hidden")


def matched(bench):
    """What is added to the other side, once all that is in view has been measured."""
    bench.page.wait_for_selector(".other-side[aria-busy=false]", timeout=120000)
    found = other(bench).locator(".small").inner_text()
    return float(re.sub("[^0-9.+-]", "", found.replace("−", "-")))


def in_view(bench, sound):
    start, scale = bench.page.evaluate("window.__view")
    width = bench.lane("music")["width"]
    return sound[:, int(max(0, start)) : int(start + scale * width)]


def loudness(sound):
    return levels_of(tally(sound, RATE)).loudness


@pytest.mark.in_time
def test_flip_between_treated_and_untreated(dull, made, tmp_path):
    page = dull.page
    treated = made.render(tmp_path)
    bare = made.render(tmp_path, "--untreated")
    dull.start_listening()
    dull.go_to(120)
    page.get_by_text("Untreated", exact=True).click()
    shown = matched(dull)
    dull.heard()
    dull.play()
    page.wait_for_timeout(900)
    dull.pause()
    places, sound = dull.heard()
    assert places.size > RATE // 2
    gain = np.sum(sound * bare[:, places]) / np.sum(bare[:, places] ** 2)
    np.testing.assert_allclose(sound, gain * bare[:, places], atol=1e-6)
    assert 20 * np.log10(gain) == pytest.approx(shown, abs=0.051)
    louder = loudness(in_view(dull, treated)) - loudness(in_view(dull, gain * bare))
    assert abs(louder) < 0.1
    # Flipped while playing: the treated side is that of the export, at its own place.
    dull.go_to(130)
    dull.heard()
    dull.play()
    page.wait_for_timeout(600)
    page.keyboard.press("t")
    page.wait_for_timeout(900)
    dull.pause()
    places, sound = dull.heard()
    last = slice(-RATE // 3, None)
    np.testing.assert_allclose(sound[:, last], treated[:, places[last]], atol=1e-6)
    assert np.abs(treated[:, places[last]] - bare[:, places[last]]).max() > 0.01
    # In between it only fades, and time goes on by the sample.
    assert (np.diff(places) > 0).all()
    assert np.diff(places).max() < 2 * 240 + RATE // 100


def test_only_the_difference_and_without_one_effect(dull, made, tmp_path):
    page = dull.page
    treated = made.render(tmp_path)
    made.edit(kind="set_effect", owner="treatment:dull", id="g", bypass=True)
    without = made.render(tmp_path)
    made.edit(kind="set_effect", owner="treatment:dull", id="g", bypass=False)
    revision = made.api.get(f"/api/reels/{made.id}")["revision"]
    page.locator("[data-treatment=dull]").press("Enter")
    open_card(page, "Gain")
    hold_against(dull, "Without Gain")
    assert other(dull).inner_text().startswith("Without Gain")
    dull.start_listening()
    hold_against(dull, "Hear only the difference")
    page.get_by_text("Only the difference is heard").wait_for()
    dull.go_to(100)
    places, sound = dull.listened(1.0)
    assert places.size > RATE // 2
    np.testing.assert_allclose(sound, (treated - without)[:, places], atol=1e-6)
    assert made.api.get(f"/api/reels/{made.id}")["revision"] == revision


def test_yesterday_is_heard_beside_today(dull, made, tmp_path):
    page = dull.page
    before = made.render(tmp_path)
    made.edit(kind="set_effect", owner="treatment:dull", id="m", params={"high_cut_hz": 250})
    page.get_by_role("tab", name="History").click()
    page.get_by_role(
        "button", name=re.compile("Hear it as it was here: .*Dull|treat")
    ).first.click()
    dull.start_listening()
    matched_gain = matched(dull)
    dull.go_to(60)
    places, sound = dull.listened(1.0)
    gain = np.sum(sound * before[:, places]) / np.sum(before[:, places] ** 2)
    np.testing.assert_allclose(sound, gain * before[:, places], atol=1e-6)
    assert 20 * np.log10(gain) == pytest.approx(matched_gain, abs=0.051)


def test_blind_hides_shuffles_counts_and_tells(dull):
    page = dull.page
    hold_against(dull, "Compare blind")
    bar = page.get_by_role("group", name="Blind comparison")
    assert "Treated" not in bar.inner_text()
    for _ in range(5):
        bar.get_by_role("button", name="A is better").click()
        page.keyboard.press("t")
    bar.get_by_role("button", name="No difference").click()
    bar.get_by_role("button", name="End (6)").click()
    told = page.locator(".told").inner_text()
    treated, untreated = map(int, re.findall(r"(\d+) of 5", told))
    assert treated + untreated == 5
    assert "No difference: 1" in told


def test_settings_are_kept_side_by_side_and_the_chosen_ones_play(dull, made):
    page = dull.page
    page.locator("[data-treatment=dull]").press("Enter")
    page.get_by_role("button", name="More for all effects").click()
    page.get_by_role("menuitem", name="Keep these settings beside others").click()
    kept = page.get_by_role("group", name="Kept settings")
    kept.get_by_role("button", name="B", exact=True).wait_for()
    field = page.get_by_label("High cut, value")
    if not field.is_visible():
        open_card(page, "Muffle")
    field.fill("3 kHz")
    field.press("Enter")
    dull.saved()
    hold_against(dull, "A")
    assert other(dull).inner_text().startswith("A")
    kept.get_by_role("button", name="A", exact=True).click()
    dull.saved()
    span = next(t for t in made.document["tracks"] if t["id"] == "music")["treatments"][0]
    assert span["chosen"] == "A"
    assert span["effects"][0]["params"]["high_cut_hz"] == 700
    (b,) = [k for k in span["kept"] if k["name"] == "B"]
    assert b["effects"][0]["params"]["high_cut_hz"] == 3000


def test_what_clips_is_found_and_mended_in_one_step(dull, made):
    page = dull.page
    made.edit(kind="set_track", id="music", gain_db=20)
    page.get_by_role("tab", name="Lists").click()
    finding = page.locator(".finding", has_text="The mix clips")
    finding.wait_for(timeout=60000)
    before = made.api.get(f"/api/reels/{made.id}")["revision"]
    finding.get_by_role("button", name=re.compile("Turn the mix down|limiter")).click()
    finding.wait_for(state="detached", timeout=60000)
    assert made.api.get(f"/api/reels/{made.id}")["revision"] == before + 1
    # A treatment that makes it quieter was intended, and is said to be.
    quieter = page.locator(".finding").first
    if quieter.count():
        title = quieter.locator("b").inner_text()
        quieter.get_by_role("button", name="Intended…").click()
        field = page.get_by_label("Why it is intended")
        field.fill("on purpose")
        field.press("Enter")
        page.locator(".dismissed", has_text="1 dismissed").wait_for(timeout=60000)
        assert "on purpose" in str(made.document["listening"]), title


@pytest.mark.in_time
def test_meters_read_what_plays_as_the_core_does(dull, made, tmp_path):
    page = dull.page
    treated = made.render(tmp_path)
    dull.start_listening()
    dull.go_to(100)
    page.get_by_role("button", name="Meters, output").click()
    panel = page.get_by_role("region", name="Meters")
    panel.get_by_role("button", name="Reset").click()
    page.keyboard.press("Escape")
    dull.play()
    page.wait_for_timeout(5000)
    dull.pause()
    last = dull.frame()
    page.get_by_role("button", name="Meters, output").click()
    text = panel.inner_text().replace("−", "-")
    expected = levels_of(tally(treated[:, 100 * 1920 : last * 1920], RATE))
    said = float(re.search(r"Since the reset\s+(-?[\d.]+)", text)[1])
    assert said == pytest.approx(expected.loudness, abs=0.3)
    peak = float(re.search(r"True peak\s+(-?[\d.]+)", text)[1])
    assert peak == pytest.approx(expected.true_peak, abs=0.3)
    # What passes full scale keeps its place.
    made.edit(kind="set_track", id="music", gain_db=24)
    page.keyboard.press("Escape")
    dull.go_to(200)
    dull.play()
    page.wait_for_function("document.querySelector('.meters[data-over]')")
    dull.pause()
    page.get_by_role("button", name="Meters, output").click()
    mark = page.locator(".overs").get_by_role("button").first
    mark.click()
    assert 199 <= dull.frame() <= 205


def test_a_level_is_set_in_one_step(dull, made):
    page = dull.page
    page.locator("[data-clip=c-voice]").press("Enter")
    page.get_by_role("button", name="More for all effects").click()
    page.get_by_role("menuitem", name="Peaks at −1 dBTP").click()
    page.wait_for_function("document.querySelector('.pill.saved')")
    for _ in range(100):
        clip = next(t for t in made.document["tracks"] if t["id"] == "voice")["clips"][0]
        if clip.get("gain_db"):
            break
        page.wait_for_timeout(100)
    assert clip["gain_db"] > 0


def test_effects_are_heard_before_they_are_added(dull, made):
    page = dull.page
    before = made.api.get(f"/api/reels/{made.id}")
    page.locator("[data-treatment=dull]").press("Enter")
    dull.start_listening()
    page.get_by_role("button", name="Add an effect…").click()
    field = page.get_by_role("combobox", name="Search effects")
    field.fill("church")
    page.get_by_role("option", name=re.compile("Nave")).first.wait_for()
    for _ in range(3):
        field.press("ArrowDown")
        page.wait_for_timeout(150)
    assert page.get_by_role("button", name="Pause").is_visible()
    page.wait_for_function("window.__tap.reports.slice(-20).every((r) => !r.starving)")
    for _ in range(20):
        dull.heard()
        page.wait_for_timeout(500)
        _, sound = dull.heard_at_all()
        if sound.size and np.sqrt(np.mean(sound**2)) > 0.003:
            break
    else:
        raise AssertionError("what is tried is not heard")
    field.press("Escape")
    page.get_by_role("button", name="▶ Play").wait_for()
    assert other(dull).inner_text().startswith("Untreated")
    after = made.api.get(f"/api/reels/{made.id}")
    assert after["revision"] == before["revision"]
    assert after["document"] == before["document"]
    assert not page.get_by_role("button", name="Loop", pressed=True).count()


def test_presets_are_walked_through_by_keys(dull, made):
    page = dull.page
    page.locator("[data-treatment=dull]").press("Enter")
    open_card(page, "Muffle")
    page.locator(".timeline").click(position={"x": 5, "y": 5})
    page.locator("[data-treatment=dull]").press("Enter")
    open_card(page, "Muffle")
    page.locator("body").press("n")
    bar = page.locator(".try-bar")
    first = bar.inner_text()
    page.locator("body").press("n")
    page.wait_for_function("(t) => document.querySelector('.try-bar').innerText !== t", arg=first)
    page.locator("body").press("Escape")
    bar.wait_for(state="detached")
    revision = made.api.get(f"/api/reels/{made.id}")["revision"]
    page.locator("body").press("n")
    bar.wait_for()
    page.locator("body").press("Enter")
    bar.wait_for(state="detached")
    dull.saved()
    assert made.api.get(f"/api/reels/{made.id}")["revision"] == revision + 1


def test_a_part_is_heard_and_marked_and_never_exported(dull, made, tmp_path):
    page = dull.page
    whole = made.render(tmp_path)
    page.get_by_role("button", name="What to compare with").click()
    page.get_by_role("menuitem", name="Sides and bands").hover()
    page.get_by_role("menuitem", name="As mono").click()
    page.keyboard.press("Escape")
    page.get_by_text("Heard as mono").wait_for()
    assert np.array_equal(made.render(tmp_path), whole)
    page.get_by_role("button", name="Hear all of it").click()
    page.get_by_text("Heard as mono").wait_for(state="detached")
    # One track alone: as it is in the reel, without the others.
    page.locator("[data-clip=c-voice]").press("Enter")
    hold_against(dull, "Only Voice")
    dull.start_listening()
    dull.go_to(5 * 25 + 2)
    places, sound = dull.listened(0.8)
    made.edit(kind="set_track", id="music", mute=True)
    alone = made.render(tmp_path)
    np.testing.assert_allclose(sound, alone[:, places], atol=1e-6)


def test_what_an_effect_is_for_and_what_a_track_carries(dull, made):
    page = dull.page
    page.locator("[data-treatment=dull]").press("Enter")
    open_card(page, "Muffle")
    page.keyboard.press("F1")
    about = page.get_by_role("region", name="About Muffle")
    assert "Listen for" in about.inner_text()
    page.keyboard.press("F1")
    about.wait_for(state="detached")
    page.get_by_role("button", name="Treat all of Music").click()
    page.get_by_label("What the track carries").select_option("music")
    dull.saved()
    assert next(t for t in made.document["tracks"] if t["id"] == "music")["material"] == "music"


def test_what_is_compared_or_tried_ends_when_it_is_gone(dull, made):
    page = dull.page
    page.locator("[data-treatment=dull]").press("Enter")
    open_card(page, "Gain")
    hold_against(dull, "Without Gain")
    made.edit(kind="remove_effect", owner="treatment:dull", id="g")
    other(dull).filter(has_text="Untreated").wait_for()
    # What is tried from a list ends with the sheet that the list is in.
    page.get_by_role("button", name="Add an effect…").click()
    field = page.get_by_role("combobox", name="Search effects")
    page.get_by_role("listbox").get_by_role("option").first.wait_for()
    field.press("ArrowDown")
    page.get_by_role("button", name="Pause").wait_for()
    page.locator("[data-clip=c-voice]").dispatch_event("click")
    page.locator("[data-clip=c-voice]").press("Enter")
    page.get_by_role("button", name="▶ Play").wait_for()
    assert other(dull).inner_text().startswith("Untreated")


def test_held_down_the_key_flips_for_as_long_as_it_is_held(dull):
    page = dull.page
    chosen = page.get_by_role("radiogroup", name="Which sound is heard").get_by_role("radio")
    page.keyboard.down("t")
    assert chosen.nth(0).is_checked()
    page.wait_for_timeout(700)
    page.keyboard.up("t")
    page.wait_for_function("document.querySelectorAll('.compare input')[1].checked")
    page.keyboard.press("t")
    assert chosen.nth(0).is_checked()


def test_the_whole_reel_is_measured_and_an_export_says_what_it_will_measure(dull, made, tmp_path):
    page = dull.page
    expected = levels_of(tally(made.render(tmp_path), RATE))
    loud, peak = (f"{v:.1f}".replace("-", "−") for v in (expected.loudness, expected.true_peak))
    page.get_by_role("button", name="Meters, output").click()
    page.get_by_role("button", name="Measure", exact=True).click()
    page.locator(".whole-reel", has_text=f"{loud} LUFS").wait_for(timeout=60000)
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Export…").click()
    page.locator(".foreseen", has_text=f"{loud} LUFS").wait_for(timeout=60000)
    assert peak in page.locator(".foreseen").inner_text()
    page.keyboard.press("Escape")
    # A number that the findings go by.
    page.get_by_role("tab", name="Lists").click()
    page.locator(".thresholds summary").click()
    field = page.get_by_label("Loudness asked for, LUFS")
    field.fill("-16 lufs")
    field.press("Enter")
    page.locator(".finding", has_text="The mix is").wait_for(timeout=60000)
    assert made.document["listening"]["thresholds"] == {"target_lufs": -16}


def test_some_tracks_are_heard_alone_for_the_session(dull, made, tmp_path):
    page = dull.page
    made.edit(kind="add_track", track={"id": "third", "name": "Third"})
    dull.start_listening()
    page.get_by_role("button", name="What to compare with").click()
    page.get_by_role("menuitem", name="Only some tracks").hover()
    page.get_by_role("menuitem", name="Music", exact=True).click()
    page.get_by_role("menuitem", name="Third", exact=True).click()
    page.keyboard.press("Escape")
    page.keyboard.press("Escape")
    note = page.locator(".heard-notes", has_text="Only Music and Third")
    note.wait_for()
    places, sound = dull.played(130, 0.9)
    made.edit(kind="set_track", id="voice", mute=True)
    alone = made.render(tmp_path)
    np.testing.assert_allclose(sound, alone[:, places], atol=1e-6)
    assert "solo" not in str([t.get("solo") for t in made.document["tracks"] if t.get("solo")])
    # A band of one's own.
    page.get_by_role("button", name="What to compare with").click()
    page.get_by_role("menuitem", name="Sides and bands").hover()
    page.get_by_role("menuitem", name="Custom band").click()
    field = page.get_by_label("Upper edge of the band")
    field.fill("1.5 kHz")
    field.press("Enter")
    assert field.input_value() == "1500 Hz"
    field.fill("100 Hz")
    field.press("Enter")
    assert field.get_attribute("aria-invalid") == "true"


def test_a_range_is_exported_with_the_tail_it_would_cut(dull, made, tmp_path):
    page = dull.page
    made.edit(
        kind="add_treatment", track="music", id="hall", name="Hall",
        start={"frame": 500}, end={"frame": 550},
        effects=[{"id": "r", "kind": "reverb", "params": {"decay_s": 3.0}}],
    )  # fmt: skip
    y = dull.lane("voice")["y"] + 30
    dull.drag(dull.x_of_frame(450), y, dull.x_of_frame(575))
    page.get_by_role("button", name="Export…").click()
    page.get_by_text("Range, ").click()
    page.get_by_text("The end of the range cuts the tail of “Hall”").wait_for()
    page.locator(".foreseen", has_text="LUFS").wait_for(timeout=30000)
    page.get_by_role("button", name="Extend by").click()
    page.get_by_text("The end of the range cuts").wait_for(state="detached")
    page.get_by_text("32 bit float").click()
    page.get_by_label("Name of the file").fill("Only that")
    page.get_by_role("button", name="Render").click()
    with page.expect_download(timeout=60000) as coming:
        page.get_by_role("link", name="Save").click(timeout=60000)
    found, _ = soundfile.read(coming.value.path(), dtype="float32", always_2d=True)
    whole = made.render(tmp_path)
    start = next(
        k
        for k in range(430 * 1920, 470 * 1920, 1)
        if np.array_equal(whole[:, k : k + 64].T, found[:64])
    )
    np.testing.assert_array_equal(found.T, whole[:, start : start + len(found)])
    assert len(found) > 4 * RATE
