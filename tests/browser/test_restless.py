"""A hand that never rests, edits while a loop plays, and a reel that is left in mid-edit."""

import re
import time

import numpy as np
import pytest
import soundfile
from conftest import Bench, Held, enter
from media import RATE

FRAME = 1920
# A tone's second difference, twice over where it fades from one phase to another, and some room:
# the smallest step that would be found is 50 dB below the tone.
TONE_HZ, TONE = 220.0, 0.25
SMOOTH = 4 * TONE * (2 * np.pi * TONE_HZ / RATE) ** 2


@pytest.fixture(scope="module")
def tone(owner, tmp_path_factory):
    """A medium of twenty seconds in which every click would be found."""
    path = tmp_path_factory.mktemp("tone") / "tone.wav"
    sound = TONE * np.sin(2 * np.pi * TONE_HZ * np.arange(20 * RATE) / RATE)
    soundfile.write(path, np.stack([sound, sound], 1), RATE, subtype="FLOAT")
    return owner.api.upload(path), path


@pytest.fixture
def treated(made, tone):
    """The tone alone, treated from 9 to 15 s."""
    line, path = tone
    made.edit(kind="add_medium", medium={"id": line["id"], "path": path.name})
    made.files[line["id"]] = path
    made.edit(kind="remove_clips", ids=["c-voice", "c-music"])
    clip = {"id": "c-tone", "media": line["id"], "name": "tone", "start": 0, "length": 20 * RATE}
    made.edit(kind="add_clip", track="music", clip=clip)
    effect = {"id": "e", "kind": "muffle", "params": {}}
    where = {"start": {"frame": 225}, "end": {"frame": 375}}
    made.edit(kind="add_treatment", track="music", id="under", **where, effects=[effect])
    return made


def assert_no_click(sound):
    bends = np.abs(np.diff(sound, n=2, axis=1)).max(axis=0)
    assert bends.max() < SMOOTH, (bends.max(), np.flatnonzero(bends >= SMOOTH)[:10])


def assert_rendered(made, folder, places, sound, least):
    """Bit by bit."""
    assert places.size > least
    expected = made.render(folder)
    differs = (sound != expected[:, places]).any(axis=0)
    assert not differs.any(), (differs.sum(), places[differs][:5])


def looped(bench, first, last):
    """Loop a range of frames, drawn where nothing lies."""
    y = bench.lane("voice")["y"] + 80
    bench.drag(bench.x_of_frame(first), y, bench.x_of_frame(last))
    bench.page.get_by_role("button", name="Loop").click()


@pytest.mark.alone
def test_a_hand_that_never_rests_while_a_loop_plays(treated, bench, tmp_path):
    page = bench.page
    page.locator("[data-treatment=under]").click(position={"x": 30, "y": 6})
    thumb = page.get_by_role("slider", name="Level", exact=True)
    thumb.scroll_into_view_if_needed()
    bench.start_listening()
    bench.go_to(230)
    page.get_by_role("button", name="Loop").click()
    bench.heard()
    bench.play()
    page.wait_for_timeout(600)
    box = thumb.bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    until = time.monotonic() + 6
    turn = 0
    while time.monotonic() < until:
        turn += 1
        page.mouse.move(x - 45 + 40 * np.sin(turn / 3), y)
        page.wait_for_timeout(40)
    page.mouse.move(x - 20, y)
    page.mouse.up()
    bench.saved()
    page.wait_for_timeout(1500)
    places, sound = bench.heard_at_all()
    assert_no_click(sound)
    assert np.abs(sound[0, places >= 0]).max() > TONE / 4
    # Twice round, and nothing but the last of it.
    page.wait_for_timeout(7000)
    bench.pause()
    places, sound = bench.heard()
    assert np.count_nonzero(np.diff(places) < 0) >= 1
    assert_rendered(treated, tmp_path, places, sound, 6 * RATE)


@pytest.mark.in_time
def test_after_an_edit_at_13_s_of_a_loop_from_10_to_14_nothing_old_comes_back(
    treated, bench, tmp_path
):
    page = bench.page
    page.locator("[data-treatment=under]").click(position={"x": 30, "y": 6})
    field = page.get_by_label("High cut, value")
    field.wait_for()
    bench.start_listening()
    looped(bench, 250, 350)
    # The range that loops has taken the selection.
    page.locator("[data-treatment=under]").click(position={"x": 30, "y": 6})
    bench.go_to(255)
    before = treated.render(tmp_path)
    bench.play()
    # Typed before, so that the edit is made at 13 s, however long that takes the driver.
    field.fill("90 Hz")
    page.wait_for_function("window.__tap.now() > 13 * 48000")
    page.keyboard.press("Enter")
    bench.saved()
    page.wait_for_function("window.__tap.now() < 12 * 48000")
    page.wait_for_timeout(2500)
    bench.pause()
    everywhere, sound = bench.heard_at_all()
    exact = np.flatnonzero(everywhere >= 0)
    places = everywhere[exact]
    back = np.flatnonzero(np.diff(places) < 0)
    assert back.size, "it has never jumped back"
    first = exact[back[0] + 1]
    after = places[back[0] + 1 :]
    assert_rendered(treated, tmp_path, after, sound[:, exact[back[0] + 1 :]], RATE)
    # It is not the same as before, or this would say nothing.
    assert np.abs(before[:, after] - sound[:, exact[back[0] + 1 :]]).max() > 0.05
    # Where the exact sound comes a little late, it is that of the hand until then, and not the old.
    early = int(after[0]) - 10 * RATE
    hurried = sound[:, first - early : first]
    now = treated.render(tmp_path)

    def away(other):
        return np.abs(hurried - other[:, 10 * RATE : after[0]]).sum()

    print(
        f"{early} samples of the hand's own: {away(now):.1f} from the new, {away(before):.1f} old"
    )
    assert early <= RATE // 50 or away(now) < away(before) / 4
    assert 0 <= early <= RATE // 50


def test_a_reel_that_is_left_in_mid_edit_keeps_its_edit_and_so_does_the_next(
    made, bench, server, context
):
    page = bench.page
    name = f"Left for {made.id[:8]}"
    other = made.api.post("/api/reels", {"name": name})["id"]
    made.api.edit(other, kind="add_track", track={"id": "music", "name": "Music"})
    held = Held(page, f"**/api/reels/{made.id}/edits")
    level_of_music(page, "-9")
    page.get_by_text("Saving…").wait_for()
    page.get_by_role("link", name="Bathyphon: all reels").click()
    page.get_by_role("link", name=name).click()
    page.wait_for_url(f"**/reels/{other}")
    level_of_music(page, "-7")
    bench.saved()
    assert level(made.api, other) == -7.0
    assert level(made.api, made.id) == 0.0
    held.let_go()
    page.wait_for_timeout(500)
    assert level(made.api, made.id) == -9.0
    assert level(made.api, other) == -7.0
    bench.saved()


def level_of_music(page, text):
    field = page.get_by_role("textbox", name="Level of Music")
    field.fill(text)
    field.press("Enter")


def level(api, reel):
    tracks = api.get(f"/api/reels/{reel}")["document"]["tracks"]
    return next(t for t in tracks if t["id"] == "music").get("gain_db", 0.0)


def test_an_edit_after_the_session_has_ended_is_saved_when_one_signs_in_again(
    page, server, link, owner
):
    """The edit stays in the window through the page where one signs in, and back."""
    enter(page, server.url + link("/"))
    name = page.evaluate("fetch('/api/account').then((r) => r.json()).then((a) => a.name)")
    page.get_by_role("button", name="Settings").click()
    page.get_by_role("menuitem", name="Change the password…").click()
    page.get_by_label("New password").fill("carbide and rope")
    page.get_by_role("button", name="Change it").click()
    page.get_by_text("The password has been changed.").wait_for()
    reel = page.evaluate(
        """async () => {
          const token = document.cookie.match(/csrftoken=([^;]+)/)[1];
          const post = async (path, body) => (await fetch(path, {
            method: 'POST',
            headers: { 'Content-Type': 'application/json', 'X-CSRFToken': token },
            body: JSON.stringify(body),
          })).json();
          const { id, revision } = await post('/api/reels', { name: 'Kept' });
          const commands = [{ kind: 'add_track', track: { id: 'music', name: 'Music' } }];
          const edit_id = crypto.randomUUID();
          await post(`/api/reels/${id}/edits`, { edit_id, base: revision, commands });
          return id;
        }"""
    )
    page.goto(f"{server.url}/reels/{reel}")
    page.get_by_role("textbox", name="Level of Music").wait_for()
    page.context.clear_cookies()
    level_of_music(page, "-11")
    page.get_by_text("Not saved yet: signed out").wait_for()
    page.get_by_role("link", name="Sign in").click()
    page.get_by_text("You have been signed out.").wait_for()
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password").first.fill("carbide and rope")
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("textbox", name="Level of Music").wait_for()
    Bench(page).saved()
    get_level = f"""fetch('/api/reels/{reel}').then((r) => r.json())
      .then((r) => r.document.tracks[0].gain_db)"""
    assert page.evaluate(get_level) == -11.0


def test_a_refused_value_does_not_stay_on_the_screen(made, bench):
    page = bench.page
    page.route("**/api/reels/*/edits", refuse)
    field = page.get_by_role("textbox", name="Level of Music")
    shown = field.input_value()
    level_of_music(page, "-9")
    page.get_by_text("the level may not be so low").wait_for()
    page.wait_for_function(
        "(was) => document.querySelector('[aria-label=\"Level of Music\"]').value === was",
        arg=shown,
    )
    assert level(made.api, made.id) == 0.0


def refuse(route):
    route.fulfill(status=422, json={"detail": "the level may not be so low", "where": "gain_db"})


def test_a_player_that_is_not_there_says_so_and_does_not_pretend_to_play(made, page, server):
    page.context.add_cookies(made.api.cookies())
    page.route(re.compile(r"supply\.worker"), lambda route: route.abort())
    page.goto(f"{server.url}/reels/{made.id}")
    said = page.get_by_role("alert").filter(has_text="The player could not be loaded.")
    said.wait_for()
    page.get_by_role("button", name="▶ Play").click()
    page.wait_for_timeout(500)
    assert said.is_visible()
    assert page.get_by_role("button", name="▶ Play").is_visible()
    page.unroute(re.compile(r"supply\.worker"))
    page.get_by_role("button", name="Reload").click()
    page.wait_for_selector(".track")
    page.get_by_role("button", name="▶ Play").click()
    page.wait_for_function("window.__tap.heard > 4800")


def test_where_nothing_can_be_played_it_is_said_and_a_button_tries_again(made, bench):
    page = bench.page
    page.evaluate(
        """() => {
          window.__addModule = Worklet.prototype.addModule;
          Worklet.prototype.addModule = () => Promise.reject(new Error('gone'));
        }"""
    )
    bench.play()
    page.get_by_role("alert").filter(has_text="The player could not be loaded.").wait_for()
    assert page.get_by_role("button", name="▶ Play").is_visible()
    page.evaluate("() => void (Worklet.prototype.addModule = window.__addModule)")
    page.get_by_role("button", name="Start the sound").click()
    page.wait_for_function("window.__tap.heard > 4800")
    assert not page.get_by_role("alert").is_visible()
    bench.pause()
    assert bench.heard()[0].size > 4800
