"""Bringing in files, markers, cuts and beats, as an editor does."""

import numpy as np
import pytest
import soundfile
from media import RATE

from music import song


def document(made):
    return made.document


def test_markers_are_dropped_named_moved_and_undone(bench, made):
    page = bench.page
    bench.go_to(150)
    page.keyboard.press("m")
    page.locator("[data-marker]").wait_for()
    bench.saved()
    assert document(made)["markers"][0]["at"] == 150 * 1920
    page.get_by_role("tab", name="Lists").click()
    field = page.get_by_label("Label of the marker at 00:00:06:00")
    field.fill("knock")
    field.press("Enter")
    page.get_by_role("button", name="Kind of the marker at").click()
    page.get_by_role("menuitem", name="sound").click()
    page.locator("[data-marker][data-kind=sound]").wait_for()
    bench.saved()
    flag = page.locator("[data-marker]").bounding_box()
    bench.drag(flag["x"] + 5, flag["y"] + 6, bench.x_of_frame(250) + 3)
    page.wait_for_timeout(200)
    bench.saved()
    marker = document(made)["markers"][0]
    assert (marker["label"], marker["kind"], marker["at"]) == ("knock", "sound", 250 * 1920)
    bench.go_to(300)
    page.keyboard.press(",")
    assert bench.frame() == 250
    page.keyboard.press("Control+z")
    page.wait_for_timeout(300)
    bench.saved()
    assert document(made)["markers"][0]["at"] == 150 * 1920


@pytest.mark.in_time
def test_a_marker_dropped_while_playing_lies_where_it_was_heard(bench, made):
    page = bench.page
    bench.start_listening()
    bench.go_to(50)
    bench.play()
    page.wait_for_timeout(1500)
    heard = page.evaluate(
        "() => { const at = window.__tap.now();"
        " window.dispatchEvent(new KeyboardEvent('keydown', {key: 'm'})); return at; }"
    )
    bench.pause()
    bench.saved()
    # Within a frame of what left the audio graph's clock at that moment.
    assert abs(document(made)["markers"][0]["at"] - heard) < 1920


def test_go_to_a_typed_moment(bench):
    page = bench.page
    field = page.get_by_label("Go to a timecode")
    for text, frame in (("4:00", 100), ("+12f", 112), ("-1:00", 87), ("150f", 150)):
        field.fill(text)
        field.press("Enter")
        assert bench.frame() == frame
    field.fill("soon")
    field.press("Enter")
    assert field.get_attribute("aria-invalid") == "true"


def test_cuts_are_moved_named_and_read_from_a_list(bench, made, tmp_path):
    page = bench.page
    page.get_by_role("tab", name="Lists").click()
    page.get_by_role("button", name="Move the cut at 00:00:04:00 one frame later").click()
    page.get_by_label("Name of shot 3").fill("Pool")
    page.get_by_label("Name of shot 3").press("Enter")
    page.get_by_role("button", name="00:00:04:01", exact=True).wait_for()
    bench.saved()
    listed = tmp_path / "cuts.csv"
    listed.write_text("frame,name\n40,Hill\n500,Bell\n")
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Import markers and cuts…").click()
    chooser.value.set_files(listed)
    page.get_by_text("2 cuts from cuts.csv").wait_for()
    bench.saved()
    picture = document(made)["picture"]
    assert picture["cuts"] == [40, 101, 250, 400, 500]
    assert {s["frame"]: s.get("name") for s in picture["shots"]}[250] == "Pool"
    listed.write_text("frame,name\nsoon,x\n")
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Import markers and cuts…").click()
    chooser.value.set_files(listed)
    page.get_by_text("“soon” is not a frame number (line 2)").wait_for()
    with page.expect_download() as saved:
        page.get_by_role("button", name="Export markers and cuts…").click()
        page.get_by_role("menuitem", name="Cuts as CSV").click()
    assert "Pool" in saved.value.path().read_text()


def test_music_dropped_on_the_window_gets_a_track_and_its_beats(bench, made, tmp_path):
    import numpy as np

    page = bench.page
    made_song = song(np.random.default_rng(5), (124.0,), 30)
    path = tmp_path / "drums.wav"
    soundfile.write(path, made_song.sound.T, RATE, subtype="PCM_16")
    page.get_by_role("tab", name="Media & sounds").click()
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Import files…").click()
    chooser.value.set_files(path)
    card = page.locator(".medium", has_text="drums.wav")
    card.get_by_text("124.00 BPM").wait_for(timeout=60_000)
    bench.saved()
    track = next(t for t in document(made)["tracks"] if t["name"] == "drums")
    assert track["clips"][0]["length"] == made_song.sound.shape[1]
    card.get_by_role("button", name="Show beats").click()
    page.locator(".beat").first.wait_for()
    card.get_by_role("button", name="half as fast").click()
    card.get_by_text("62.00 BPM").wait_for()
    card.get_by_role("button", name="twice as fast").click()
    card.get_by_text("124.00 BPM").wait_for()
    # One step: the music stops just before the beat after the playhead.
    bench.go_to(250)
    lane = bench.lane(track["id"])
    page.mouse.click(bench.x_of_frame(250), lane["y"] + 20)
    page.get_by_role("button", name="End before the next beat").click()
    page.wait_for_timeout(300)
    bench.saved()
    clip = next(t for t in document(made)["tracks"] if t["name"] == "drums")["clips"][0]
    following = made_song.beats[made_song.beats > 250 * 1920 + 1][0]
    assert abs(clip["length"] - (following - 480)) < 0.003 * RATE


def test_an_upload_goes_on_after_a_lost_connection(bench, made, tmp_path):
    page = bench.page
    path = tmp_path / "long.wav"
    rng_seconds = 60
    noise = np.random.default_rng(3).standard_normal((rng_seconds * RATE, 2)) * 0.1
    soundfile.write(path, noise, RATE, subtype="FLOAT")
    broken = {"left": 2}

    def lose(route):
        if route.request.method == "PATCH" and broken["left"]:
            broken["left"] -= 1
            route.abort("connectionreset")
        else:
            route.continue_()

    page.route("**/api/uploads/*", lose)
    page.get_by_role("tab", name="Media & sounds").click()
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Import files…").click()
    chooser.value.set_files(path)
    page.locator(".medium", has_text="long.wav").wait_for(timeout=60_000)
    assert broken["left"] == 0
    bench.saved()
    assert any(t["name"] == "long" for t in document(made)["tracks"])


def test_an_upload_left_unfinished_is_shown_and_goes_on(bench, made, tmp_path):
    page = bench.page
    name = f"half-{made.id[:8]}.wav"
    path = tmp_path / name
    noise = np.random.default_rng(4).standard_normal((60 * RATE, 2)) * 0.1
    soundfile.write(path, noise, RATE, subtype="FLOAT")
    parts = []

    def lose(route):
        if route.request.method == "PATCH":
            parts.append(int(route.request.headers["upload-offset"]))
            if len(parts) > 1:
                route.abort("connectionreset")
                return
        route.continue_()

    page.route("**/api/uploads/*", lose)
    page.get_by_role("tab", name="Media & sounds").click()
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Import files…").click()
    chooser.value.set_files(path)
    for _ in range(100):
        if len(parts) > 1:
            break
        page.wait_for_timeout(100)
    page.reload()
    page.wait_for_selector(".track")
    page.get_by_role("tab", name="Media & sounds").click()
    left = page.get_by_role("region", name="Unfinished uploads")
    left = left.locator(".shelf-step", has_text=name)
    left.wait_for()
    page.unroute("**/api/uploads/*")
    sent = []
    page.on(
        "request",
        lambda r: sent.append(int(r.headers["upload-offset"])) if r.method == "PATCH" else None,
    )
    with page.expect_file_chooser() as chooser:
        left.get_by_role("button", name="Choose the file…").click()
    chooser.value.set_files(path)
    page.locator(".medium", has_text=name).wait_for(timeout=60_000)
    assert sent[0] > 0
    left.wait_for(state="detached")


@pytest.mark.in_time
def test_half_and_double_speed_hold_pitch_and_picture(bench):
    page = bench.page
    bench.start_listening()
    place = """async (ms) => {
      const at = () => document.querySelector('.playhead-head').textContent.split(/[:;]/)
        .reduce((sum, part, i) => sum * [1, 60, 60, 25][i] + Number(part), 0);
      const video = document.querySelector('.picture video');
      const from = at(), began = performance.now();
      await new Promise((done) => setTimeout(done, ms));
      return [(at() - from) / 25 / ((performance.now() - began) / 1000),
        at() - video.currentTime * 25];
    }"""
    for label, speed in (("½×", 0.5), ("2×", 2.0)):
        page.get_by_text(label, exact=True).click()
        bench.go_to(100)
        bench.play()
        page.wait_for_timeout(1200)
        rate, behind = page.evaluate(place, 4000)
        bench.pause()
        assert abs(rate - speed) < 0.12 * speed, (label, rate)
        assert abs(behind) < 3, (label, behind)
    page.get_by_text("1×", exact=True).click()


@pytest.mark.in_time
def test_dragging_the_playhead_is_heard(bench, made):
    page = bench.page
    bench.start_listening()
    page.evaluate("window.__tap.take()")
    box = page.locator(".ruler-lane").bounding_box()
    y = box["y"] + box["height"] - 3
    page.mouse.move(bench.x_of_frame(300), y)
    page.mouse.down()
    for frame in range(300, 360, 5):
        page.mouse.move(bench.x_of_frame(frame), y)
        page.wait_for_timeout(60)
    level = page.evaluate("window.__tap.loudest()")
    page.mouse.up()
    assert level > 0.01
