"""Jobs of an editor's day, each in few gestures: a drag, a click, a key, a typed value."""

import numpy as np
import pytest
from conftest import pressed
from media import RATE
from scipy.signal import butter, sosfilt

FRAME = 1920
BELOW_CLIPS = 70


class Hand:
    """One hand at the mouse, one at the keys; it counts what it does."""

    def __init__(self, bench, made):
        self.bench, self.made, self.page = bench, made, bench.page
        self.gestures = 0

    def _done(self):
        self.gestures += 1
        self.page.wait_for_timeout(350)
        self.bench.saved()

    def drag(self, frame, to, track="music", below=BELOW_CLIPS, key=None):
        y = self.bench.lane(track)["y"] + below
        if key:
            self.page.keyboard.down(key)
        self.bench.drag(self.bench.x_of_frame(frame), y, self.bench.x_of_frame(to), y)
        if key:
            self.page.keyboard.up(key)
        self._done()

    def pull(self, x, y, to_x):
        self.bench.drag(x, y, to_x)
        self._done()

    def click(self, what):
        what.click()
        self._done()

    def click_at(self, x, y):
        self.page.mouse.click(x, y)
        self._done()

    def key(self, key):
        pressed(self.page, key)
        self._done()

    def type(self, text):
        """A typed value, and the Enter that ends it."""
        self.page.keyboard.type(text)
        self.page.keyboard.press("Enter")
        self._done()

    def click_clip(self, frame, track="music"):
        self.click_at(self.bench.x_of_frame(frame), self.bench.lane(track)["y"] + 40)

    def double_click_clip(self, frame, track="music"):
        """Select a clip and put the playhead there."""
        y = self.bench.lane(track)["y"] + 40
        self.page.mouse.dblclick(self.bench.x_of_frame(frame), y)
        self._done()

    def search(self, words, found):
        """Look for something on the shelf and open it."""
        self.key("Control+k")
        page = self.page
        page.keyboard.type(words)
        first = page.get_by_role("listbox").get_by_role("option").first
        first.filter(has_text=found).wait_for()
        page.keyboard.press("Enter")
        page.wait_for_timeout(400)
        self._done()

    def cook(self, words, found, **chosen):
        """A recipe, with the answers that it comes with but for some."""
        before = len(self.made.document.get("made", []))
        self.search(words, f"Recipe: {found}")
        for question, answer in chosen.items():
            group = self.page.get_by_role("radiogroup", name=question)
            self.click(group.get_by_text(answer, exact=True))
        if chosen:
            self.click(self.page.get_by_role("button", name="Use it"))
        else:
            ready = "document.activeElement?.textContent === 'Use it'"
            self.page.wait_for_function(ready)
            self.key("Enter")
        for _ in range(100):
            if len(self.made.document.get("made", [])) > before:
                return
            self.page.wait_for_timeout(200)
        told = self.page.get_by_role("alert").all_inner_texts()
        raise AssertionError(f"{found} made nothing: {told}")


@pytest.fixture
def hand(bench, made):
    return Hand(bench, made)


def tone(sound, hz, frame, frames=4):
    """Amplitude of a tone in some frames from one on, on the left."""
    x = sound[0, frame * FRAME : (frame + frames) * FRAME].astype(np.float64)
    t = np.arange(x.size) / RATE
    window = np.hanning(x.size)
    return 2 * abs(np.sum(x * window * np.exp(-2j * np.pi * hz * t))) / window.sum()


def db(a, b):
    return 20 * np.log10(a / b)


def level(sound, frame, frames=3):
    x = sound[:, frame * FRAME : (frame + frames) * FRAME]
    return float(np.sqrt(np.mean(x.astype(np.float64) ** 2)) + 1e-9)


def muffled(hand):
    """Music muffled between the cuts at 100 and 250."""
    hand.drag(100, 250)
    hand.key("/")
    hand.type("muffle 3f -12dB")


def assert_muffled(sound, bare, start, end):
    for frame, low in ((start - 8, 0), (start + 8, -12), (end - 12, -12), (end + 5, 0)):
        assert db(tone(sound, 110, frame), tone(bare, 110, frame)) == pytest.approx(low, abs=0.6)
    assert db(tone(sound, 2217.5, start + 20), tone(bare, 2217.5, start + 20)) < -30
    # Half way through three frames of a ramp, half of the way in dB.
    middle = start * FRAME + 3 * FRAME // 2
    part = slice(middle - 480, middle + 480)
    low = sosfilt(butter(4, 180, output="sos", fs=RATE), np.stack([sound[0], bare[0]]), axis=1)
    found = 10 * np.log10(np.mean(low[0, part] ** 2) / np.mean(low[1, part] ** 2))
    assert found == pytest.approx(-6, abs=1.5)


def test_music_is_muffled_between_two_cuts_and_at_two_other_places(hand, made, tmp_path):
    muffled(hand)
    assert hand.gestures <= 5
    hand.gestures = 0
    # The same again: a copy is dragged off by its body, with Ctrl.
    hand.drag(175, 475, below=75, key="Control")
    hand.drag(475, 875, below=75, key="Control")
    assert hand.gestures <= 3
    spans = made.document["tracks"][1]["treatments"]
    starts = [round(t["start"] / FRAME) for t in spans]
    assert starts[:2] == [100, 400]
    assert {round(t["length"] / FRAME) for t in spans} == {150}
    assert {t["ramp_in"]["length"] for t in spans} == {3 * FRAME}
    sound, bare = made.render(tmp_path), made.render(tmp_path, "--untreated")
    for start in starts:
        assert_muffled(sound, bare, start, start + 150)


def test_right_left_right_left_both_on_five_markers(hand, made, tmp_path):
    places = (200, 350, 500, 650, 800)
    markers = [{"id": f"k{f}", "at": f * FRAME, "label": "", "kind": "note"} for f in places]
    made.api.edit(made.id, kind="add_markers", markers=markers)
    hand.page.wait_for_timeout(500)
    hand.click(hand.page.get_by_role("button", name="Treat all of Music"))
    hand.click(hand.page.get_by_role("button", name="Stamp poses on markers"))
    hand.type("right, left, right, left, both")
    assert hand.gestures <= 6
    sound = made.render(tmp_path)
    sides = [level(sound[:1], f + 20, 60) / level(sound[1:], f + 20, 60) for f in places]
    assert sides[0] < 1e-3 > sides[2]
    assert sides[1] > 1e3 < sides[3]
    # The song is as 1 to 0.8, and untouched before the first of them.
    rest = level(sound[:1], 100, 60) / level(sound[1:], 100, 60)
    assert sides[4] == pytest.approx(rest, rel=0.1)
    # Quick moves: on one side until four frames before the marker.
    assert level(sound[:1], 340, 5) < 1e-3 * level(sound[1:], 340, 5)
    assert [p["name"] for p in made.document["poses"]] == ["right", "left", "both"]


def test_reverb_on_the_last_words_rings_over_the_next_shot(hand, made, tmp_path):
    # The line lasts from frame 125 to 187.5.
    hand.drag(162, 188, track="voice")
    hand.key("/")
    hand.type("reverb 3s")
    assert hand.gestures <= 4
    made.api.edit(made.id, kind="set_track", id="music", mute=True)
    sound, bare = made.render(tmp_path), made.render(tmp_path, "--untreated")
    assert np.array_equal(sound[:, : 162 * FRAME], bare[:, : 162 * FRAME])
    assert not bare[:, 190 * FRAME : 240 * FRAME].any()
    # T60 of 3 s: 20 dB in a second.
    fall = db(level(sound, 220, 6), level(sound, 195, 6))
    assert fall == pytest.approx(-20, abs=5)
    assert level(sound, 250) > 1e-4


def test_music_ends_on_a_beat_at_the_last_cut_and_rings_out(hand, made, tmp_path):
    made.api.edit(made.id, kind="set_track", id="voice", mute=True)
    hand.page.wait_for_timeout(300)
    hand.double_click_clip(396)
    hand.click(hand.page.get_by_role("button", name="End before the next beat"))
    hand.key("r")
    hand.key("Shift+ArrowLeft")
    hand.key("/")
    hand.type("reverb 6s mix 100% 5f 0f")
    assert hand.gestures <= 6
    (clip,) = made.document["tracks"][1]["clips"]
    end = clip["start"] + clip["length"]
    assert abs(end - 400 * FRAME) < FRAME
    (span,) = made.document["tracks"][1]["treatments"]
    assert (span["start"], span["length"]) == (395 * FRAME, 5 * FRAME)
    assert span["ramp_in"]["length"] == 5 * FRAME
    sound, bare = made.render(tmp_path), made.render(tmp_path, "--untreated")
    assert np.array_equal(sound[:, : 395 * FRAME], bare[:, : 395 * FRAME])
    assert not bare[:, end:].any()
    # T60 of 6 s: 10 dB a second.
    fall = db(level(sound, 460, 10), level(sound, 410, 10))
    assert fall == pytest.approx(-20, abs=4)
    # The direct sound has faded by the end: what is left there is the room alone.
    assert level(sound, 399, 1) < level(bare, 399, 1)


def test_a_swell_into_a_hit_down_after_it_and_a_long_fade(hand, made, tmp_path):
    marker = {"id": "k", "at": 500 * FRAME, "label": "hit", "kind": "sound"}
    made.api.edit(made.id, kind="add_markers", markers=[marker])
    made.api.edit(made.id, kind="set_track", id="voice", mute=True)
    hand.page.wait_for_timeout(300)
    hand.click_clip(300)
    hand.key("v")
    box = hand.page.locator(".key-lane-body").bounding_box()
    inner = 96 - 2 * 9

    def at(frame, value):
        hand.click_at(hand.bench.x_of_frame(frame), box["y"] + 9 + inner * (24 - value) / 84)

    at(250, -24)
    at(500, 0)
    at(540, -4)
    grip = hand.page.locator("[data-clip=c-music] [data-grip=fade-out]").bounding_box()
    x, y = grip["x"] + grip["width"] / 2, grip["y"] + grip["height"] / 2
    hand.pull(x, y, hand.bench.x_of_frame(1100))
    assert hand.gestures <= 6
    sound = made.render(tmp_path)
    (clip,) = made.document["tracks"][1]["clips"]
    points = clip["gain_db"]["keyframes"]
    assert [p["value"] for p in points] == [-24, 0, -4]
    assert points[1]["at"] == 500 * FRAME
    made.api.edit(made.id, kind="set_lane", lane="clip:c-music/gain_db", value=0)
    made.api.edit(made.id, kind="set_fade", id="c-music", edge="out", fade={"length": 0})
    flat = made.render(tmp_path)
    first = points[0]["at"] // FRAME
    for frame, expected in (
        (first - 20, -24.0),
        ((first + 500) // 2, -12.0),
        (497, 0.0),
        (points[2]["at"] // FRAME + 10, -4.0),
        (1000, -4.0),
    ):
        found = db(level(sound, frame, 4), level(flat, frame, 4))
        assert found == pytest.approx(expected, abs=0.7), frame
    assert level(sound, 1640, 4) < 0.1 * level(flat, 1640, 4)


def test_with_a_recipe_music_ends_on_a_beat_and_rings_out_in_five(hand, made, tmp_path):
    made.api.edit(made.id, kind="set_track", id="voice", mute=True)
    hand.page.wait_for_timeout(300)
    hand.click_clip(300)
    hand.cook("end with picture", "End with the picture", **{"Ends at": "last cut"})
    assert hand.gestures <= 5
    (clip,) = made.document["tracks"][1]["clips"]
    end = clip["start"] + clip["length"]
    assert 400 * FRAME - RATE < end <= 400 * FRAME
    sound = made.render(tmp_path)
    frame = end // FRAME
    # T60 of 6 s: 10 dB a second.
    fall = db(level(sound, frame + 60, 10), level(sound, frame + 10, 10))
    assert fall == pytest.approx(-20, abs=4)


def test_with_a_recipe_a_swell_a_hit_and_a_long_fade_take_five(hand, made):
    marker = {"id": "k", "at": 500 * FRAME, "label": "hit", "kind": "sound"}
    made.api.edit(made.id, kind="add_markers", markers=[marker])
    hand.page.wait_for_timeout(300)
    hand.click(hand.page.locator("[data-marker=k]"))
    hand.cook("swell", "Swell into a hit")
    grip = hand.page.locator("[data-clip=c-music] [data-grip=fade-out]").bounding_box()
    x, y = grip["x"] + grip["width"] / 2, grip["y"] + grip["height"] / 2
    hand.pull(x, y, hand.bench.x_of_frame(1100))
    assert hand.gestures <= 5
    music = made.document["tracks"][1]
    (clip,) = music["clips"]
    assert clip["fade_out"]["length"] > 500 * FRAME
    swell, away = music["treatments"]
    assert swell["start"] + swell["length"] == away["start"] == 500 * FRAME
    assert away["effects"][0]["params"]["level_db"] == -4
