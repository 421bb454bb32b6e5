"""Analyses in the timeline: what is drawn, read and saved is what the reel sounds like."""

import csv
import io
import re

import numpy as np
import pytest
from conftest import pressed
from media import RATE
from PIL import Image

from bathyphon.core.analysis.bands import band_powers, edges_of, middles_of
from bathyphon.core.analysis.frames import frame_size, mean_power, moments
from bathyphon.core.measure.decay import decay_times

REVERB = {"id": "r", "kind": "reverb", "params": {"decay_s": 0.9}}
SPAN = {
    "kind": "add_treatment", "track": "music", "id": "hall", "name": "Hall",
    "start": {"frame": 100}, "end": {"frame": 250},
    "effects": [{"id": "g", "kind": "gain", "params": {"level_db": -12}}, REVERB],
}  # fmt: skip
LANE = ".analysis-lane"


@pytest.fixture
def hall(made, page, server):
    """Music alone, in a hall for a while, the reel open."""
    from conftest import Bench

    made.edit(**SPAN)
    made.edit(kind="set_track", id="music", solo=True)
    page.context.add_cookies(made.api.cookies())
    page.goto(f"{server.url}/reels/{made.id}")
    page.wait_for_selector("[data-treatment=hall]")
    return Bench(page)


def settled(page, name):
    """A lane, once all that is in view has come."""
    lane = page.locator(f'[data-analysis="{name}"]')
    lane.wait_for()
    page.wait_for_function(
        "(name) => document.querySelector(`[data-analysis='${name}']`).ariaBusy === 'false'",
        arg=name, timeout=30000,
    )  # fmt: skip
    page.wait_for_timeout(200)
    return lane


def look(page, kind):
    """Open an analysis of what is selected."""
    page.get_by_role("button", name="Analyse").click()
    page.get_by_role("menuitem", name=kind, exact=True).click()


def look_at_treatment(page, kind, id):
    page.locator("[data-treatment=hall]").press("Enter")
    look(page, kind)
    return settled(page, f"{id}/treatment:hall")


def look_at_music(page, kind, id):
    page.get_by_role("button", name="More for track Music").click()
    page.get_by_role("menuitem", name="Analyse").hover()
    page.get_by_role("menuitem", name=kind, exact=True).click()
    return settled(page, f"{id}/track:music")


def read_at(bench, lane, frame, share):
    """What is said beside the pointer."""
    box = lane.locator(".analysis-body").bounding_box()
    y = box["y"] + box["height"] * (1 - share)
    bench.page.mouse.move(bench.x_of_frame(frame), y)
    return bench.page.locator(".readout").inner_text()


def number(text, before):
    """The number that stands before a unit."""
    return float(re.search(rf"([−\d.]+) {before}", text)[1].replace("−", "-"))


def column_of(bench, frame, columns):
    """The column under the pointer at a frame, as the page places it."""
    start, scale = bench.page.evaluate("window.__view")
    left = bench.lane("music")["x"]
    sample = start + (round(bench.x_of_frame(frame)) - left) * scale
    return int(sample * columns / RATE)


def test_a_spectrogram_reads_as_the_render(hall, made, tmp_path):
    page = hall.page
    mix = made.render(tmp_path).astype(float)
    lane = look_at_music(page, "Spectrogram", "spectrum")
    # 66 seconds on some 800 pixels: ten columns a second.
    columns, frame = 10, frame_size("both", RATE)
    bands = middles_of("log", RATE)
    for at, share in ((60, 0.4), (180, 0.55), (700, 0.3)):
        said = read_at(hall, lane, at, share)
        row = int(np.abs(bands - hz_of(said)).argmin())
        column = column_of(hall, at, columns)
        near = []
        for k in (column - 1, column, column + 1):
            second, place = divmod(k, columns)
            middles = moments(columns, frame, RATE)[place] + second * RATE
            power = mean_power(mix, middles[None], frame)
            near.append(10 * np.log10(band_powers(power, RATE, edges_of("log", RATE))[0, row]))
        # A pixel more or less is another column.
        assert np.abs(np.array(near) - number(said, "dB")).min() < 0.1, said


def hz_of(text):
    found = re.search(r"([\d.]+) (k?)Hz", text)
    return float(found[1]) * (1000 if found[2] else 1)


def test_keys_read_it_as_well(hall):
    page = hall.page
    lane = look_at_music(page, "Spectrogram", "spectrum")
    body = lane.get_by_role("slider")
    body.focus()
    page.keyboard.press("ArrowUp")
    first = body.get_attribute("aria-valuetext")
    assert re.search(r"\d Hz · −?\d", first) or "kHz" in first
    page.keyboard.press("Shift+ArrowUp")
    assert hz_of(body.get_attribute("aria-valuetext")) > hz_of(first)
    page.keyboard.press("Shift+ArrowRight")
    later = body.get_attribute("aria-valuetext")
    assert later.split(" · ")[0] > first.split(" · ")[0]
    assert page.get_by_role("status").filter(has_text=later.split(" · ")[0]).count() > 0
    # They move the playhead nowhere.
    assert hall.frame() == 0


def test_an_edit_is_seen_and_both_sides_are_shown(hall, made):
    page = hall.page
    lane = look_at_music(page, "Waveform", "wave")
    before = number(read_at(hall, lane, 60, 0.5), "dBFS")
    page.mouse.move(5, 5)
    made.edit(kind="set_track", id="music", gain_db=-9)
    hall.shows(made)
    lane = settled(page, "wave/track:music")
    assert number(read_at(hall, lane, 60, 0.5), "dBFS") == pytest.approx(before - 9, abs=0.11)
    treated = number(read_at(hall, lane, 150, 0.5), "dBFS")
    page.get_by_role("radiogroup", name="Which side is shown").get_by_text("Before").click()
    lane = settled(page, "wave/track:music")
    assert number(read_at(hall, lane, 150, 0.5), "dBFS") > treated + 3
    assert "before" in lane.inner_text()


def test_the_loudness_that_is_asked_for_is_a_line(hall, made):
    page = hall.page
    lane = look_at_music(page, "Loudness", "loudness")
    pixel = """([canvas, target]) => {
      const ratio = canvas.height / canvas.getBoundingClientRect().height;
      const y = 110 * (1 - (target + 60) / 63);
      const g = canvas.getContext('2d');
      const rows = g.getImageData(0, Math.round((y - 2) * ratio), canvas.width, 4 * ratio).data;
      let pink = 0;
      for (let i = 0; i < rows.length; i += 4)
        if (rows[i] > 150 && rows[i + 1] < 110 && rows[i + 2] > 90) pink++;
      return pink;
    }"""
    canvas = lane.locator(".following canvas").element_handle()
    assert page.evaluate(pixel, [canvas, -45]) == 0
    made.edit(kind="set_threshold", id="target_lufs", value=-45 + 10)
    hall.shows(made)
    settled(page, "loudness/track:music")
    assert page.evaluate(pixel, [canvas, -35]) > 100


def test_a_table_and_a_picture_of_what_is_in_view(hall, made, tmp_path):
    page = hall.page
    mix = made.render(tmp_path).astype(float)
    look_at_music(page, "Waveform", "wave")
    more = page.get_by_role("button", name="More for the waveform of Music")
    more.click()
    with page.expect_download() as coming:
        page.get_by_role("menuitem", name="Save the view as a table (CSV)").click()
    assert coming.value.suggested_filename == "Numbers · Waveform of Music.csv"
    text = coming.value.path().read_text()
    head, *lines = csv.reader(io.StringIO(text))
    assert head == ["timecode", "seconds", "side", "lowest", "highest", "RMS"]
    assert len(lines) > 600
    for line in lines[5:600:60]:
        middle = float(line[1])
        first = round((middle - 0.05) * RATE)
        part = mix[:, first : first + RATE // 10]
        expected = [part.min(), part.max(), np.sqrt(np.mean(part**2))]
        assert [float(v) for v in line[3:]] == pytest.approx(expected, abs=6e-4)
        assert line[2] == "after"
    more.click()
    with page.expect_download() as coming:
        page.get_by_role("menuitem", name="Save the view as a picture (PNG)").click()
    picture = Image.open(coming.value.path())
    assert picture.format == "PNG"
    assert picture.width > 1500
    assert picture.height == 2 * (110 + 22)
    colours = picture.convert("RGB").getcolors(1 << 24)
    assert len(colours) > 20


def test_the_decay_of_a_tail_is_what_it_leaves_behind(hall, made, tmp_path):
    page = hall.page
    wet = made.render(tmp_path).astype(float)
    made.edit(kind="set_effect", owner="treatment:hall", id="r", bypass=True)
    made.edit(kind="set_effect", owner="treatment:hall", id="g", bypass=True)
    dry = made.render(tmp_path).astype(float)
    made.edit(kind="set_effect", owner="treatment:hall", id="r", bypass=False)
    made.edit(kind="set_effect", owner="treatment:hall", id="g", bypass=False)
    look_at_treatment(page, "Decay", "decay")
    # Beyond its end there is nothing but the tail over what goes on anyway.
    start = 250 * RATE // 25
    n = min(wet.shape[1], dry.shape[1])
    rest = wet[:, start:n] - dry[:, start:n]
    last = np.flatnonzero(np.abs(rest).max(axis=0) > 0)[-1] + 1
    expected = decay_times(rest[:, :last], RATE)
    rows = page.locator(".tail-table tbody tr")
    rows.first.wait_for()
    found = [row.inner_text().split("\t") for row in rows.all()]
    told = 0
    for (_, t20, t30), band in zip(found, expected, strict=True):
        for text, value in ((t20, band.t20), (t30, band.t30)):
            if value is not None and text[0] != "—":
                assert float(text.split()[0]) == pytest.approx(value, rel=0.02, abs=0.011)
                told += 1
    assert told > 8


def test_what_is_open_stays_open_until_it_is_closed_or_gone(hall, made):
    page = hall.page
    look_at_treatment(page, "Stereo", "stereo")
    look_at_treatment(page, "Loudness", "loudness")
    page.get_by_role("button", name="Larger").click()
    assert page.locator(LANE).nth(1).bounding_box()["height"] > 300
    page.reload()
    page.wait_for_selector("[data-treatment=hall]")
    settled(page, "loudness/treatment:hall")
    assert page.locator(LANE).count() == 2
    page.get_by_role("button", name="Close the stereo of Hall").click()
    assert page.locator(LANE).count() == 1
    made.edit(kind="remove_treatments", ids=["hall"])
    page.locator(LANE).wait_for(state="detached")


def test_a_range_and_the_mix_by_the_search_of_commands(hall):
    page = hall.page
    y = hall.lane("music")["y"] + 90
    hall.drag(hall.x_of_frame(300), y, hall.x_of_frame(420))
    pressed(page, "Control+k")
    page.keyboard.type("spectrogram")
    page.keyboard.press("Enter")
    lane = page.locator(f"{LANE}[data-analysis^='spectrum/track:music/']")
    lane.wait_for()
    assert "range on Music" in lane.inner_text()
    page.get_by_text("at the playhead").wait_for()
    page.keyboard.press("Escape")
    pressed(page, "Control+k")
    page.keyboard.type("lufs over")
    page.keyboard.press("Enter")
    settled(page, "loudness/mix")
    page.get_by_role("button", name="Show the spectrum large").click()
    drawing = page.get_by_role("dialog").get_by_role("slider")
    drawing.focus()
    page.keyboard.press("ArrowRight")
    assert "mean" in drawing.get_attribute("aria-valuetext")


@pytest.mark.in_time
def test_each_track_shows_its_peaks_while_it_plays(hall, made, tmp_path):
    page = hall.page
    made.edit(kind="set_track", id="music", gain_db=16)
    mix = made.render(tmp_path).astype(float)
    hall.start_listening()
    hall.type_frame(300)
    hall.play()
    page.wait_for_timeout(1200)
    seen = page.evaluate("""() => new Promise((done) => {
      const bar = document.querySelector('[aria-label="Track Music"] .track-meter-bar');
      const seen = [];
      const look = () => {
        seen.push(new DOMMatrix(getComputedStyle(bar).transform).d);
        if (seen.length < 60) requestAnimationFrame(look);
        else done(seen);
      };
      look();
    })""")
    hall.pause()
    last = hall.frame()
    tenth = RATE // 10
    there = mix[:, 300 * 1920 : (last + 3) * 1920]
    count = there.shape[1] // tenth
    peaks = np.abs(there[:, : count * tenth]).reshape(2, count, tenth).max(axis=(0, 2))
    expected = np.clip(1 + 20 * np.log10(peaks) / 48, 0, 1)
    # Each value that is shown is that of some tenth of what has played.
    near = np.abs(np.array(seen)[:, None] - expected).min(axis=1)
    assert np.median(near) < 0.01
    # The voice is silent: the solo leaves it out.
    quiet = '[aria-label="Track Voice"] .track-meter-bar'
    assert (
        page.locator(quiet).evaluate("(b) => new DOMMatrix(getComputedStyle(b).transform).d") == 0
    )
    # Where it was too loud stays, and leads there.
    over = page.get_by_role("button", name=re.compile("Music passed full scale at"))
    over.click()
    # The first place at which it was too loud, be it from the moment of play before.
    at = hall.frame() * 1920
    assert np.abs(mix[:, max(0, at - RATE // 5) : at + RATE // 5]).max() > 1.0
    over.wait_for(state="detached")


def test_help_is_found_by_what_stands_in_it(hall):
    page = hall.page
    pressed(page, "Control+k")
    page.keyboard.type("boxy")
    page.get_by_role("option", name="Help: Equaliser").click()
    dialog = page.get_by_role("dialog", name="Equaliser")
    assert "boxy" in dialog.inner_text()
    page.keyboard.press("Escape")
    pressed(page, "Control+k")
    page.keyboard.type("dc offset")
    page.get_by_role("option", name="Help: DC offset").wait_for()
