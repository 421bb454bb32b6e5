"""Clips are moved, trimmed, faded, divided and joined as a person does it, and are heard so."""

import numpy as np

FRAME = 1920


def voice(made):
    """The clips of the track of the voice, in order."""
    (track,) = [t for t in made.document["tracks"] if t["id"] == "voice"]
    return sorted(track["clips"], key=lambda clip: clip["start"])


def grip(bench, what):
    """Middle of a clip's handle."""
    box = bench.page.locator(f"[data-clip=c-voice] [data-grip={what}]").bounding_box()
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def pulled(bench, made, what, frames):
    """Drag a handle by about so many frames, with nothing snapping."""
    x, y = grip(bench, what)
    (clip,) = voice(made)
    shown = bench.page.locator("[data-clip=c-voice]").bounding_box()["width"]
    bench.page.keyboard.down("Alt")
    bench.drag(x, y, x + shown * frames * FRAME / clip["length"])
    bench.page.keyboard.up("Alt")
    bench.page.wait_for_timeout(200)
    bench.saved()


def closer(bench):
    """Select the voice's clip and zoom to it."""
    x, y = grip(bench, "clip-move")
    bench.page.mouse.click(x, y)
    bench.page.keyboard.press("z")
    bench.page.wait_for_timeout(300)


def test_a_clip_is_moved_trimmed_and_faded_by_its_handles_and_heard_so(bench, made, tmp_path):
    closer(bench)
    (before,) = voice(made)
    pulled(bench, made, "clip-end", -12)
    pulled(bench, made, "clip-start", 8)
    pulled(bench, made, "fade-in", 10)
    pulled(bench, made, "clip-move", 20)
    (after,) = voice(made)
    trimmed = after["source_start"]
    assert 5 * FRAME < trimmed < 11 * FRAME
    assert trimmed % FRAME == 0
    assert abs(after["length"] - (before["length"] - 20 * FRAME)) < 4 * FRAME
    assert after["fade_in"]["length"] > 6 * FRAME
    moved = after["start"] - trimmed - before["start"]
    assert moved % FRAME == 0
    assert 16 * FRAME < moved < 24 * FRAME
    at, sound = bench.played(after["start"] // FRAME - 5)
    expected = made.render(tmp_path)
    assert at.size > 30000
    assert np.abs(sound - expected[:, at]).max() < 1e-6


def test_clips_are_divided_joined_copied_and_removed_by_keys_and_all_is_undone(bench, made):
    closer(bench)
    page = bench.page
    start = made.document
    bench.type_frame(150)
    page.locator("[data-clip=c-voice]").focus()
    page.keyboard.press("Shift+Enter")
    page.wait_for_function("document.querySelectorAll('[data-track=voice] [data-clip]').length==2")
    first, second = voice(made)
    assert second["start"] == 150 * FRAME == first["start"] + first["length"]
    page.keyboard.press("Control+d")
    page.wait_for_function("document.querySelectorAll('[data-track=voice] [data-clip]').length==3")
    page.keyboard.press("Alt+ArrowRight")
    page.keyboard.press("Shift+Alt+ArrowRight")
    page.wait_for_timeout(300)
    bench.saved()
    third = voice(made)[2]
    assert third["start"] == second["start"] + second["length"] + 6 * FRAME
    page.keyboard.press("Delete")
    page.wait_for_function("document.querySelectorAll('[data-track=voice] [data-clip]').length==2")
    page.locator("[data-clip=c-voice] [data-grip=clip-move]").click()
    page.keyboard.press("Control+j")
    page.wait_for_function("document.querySelectorAll('[data-track=voice] [data-clip]').length==1")
    assert voice(made) == [c for t in start["tracks"] if t["id"] == "voice" for c in t["clips"]]
    for _ in range(6):
        page.keyboard.press("Control+z")
    page.wait_for_timeout(400)
    bench.saved()
    assert made.document["tracks"] == start["tracks"]


def test_sound_out_of_sync_says_so_and_returns_with_one_click(bench, made):
    closer(bench)
    page = bench.page
    page.get_by_role("button", name="Clip ▾").click()
    page.get_by_role("menuitem", name="Tie to the picture as it lies").click()
    page.get_by_text("In sync with the picture").wait_for()
    for _ in range(3):
        page.keyboard.press("Alt+ArrowRight")
    page.get_by_text("3 frames (120 ms) late: hardly noticeable").wait_for()
    page.keyboard.press("Alt+ArrowRight")
    page.get_by_text("4 frames (160 ms) late: noticeable").wait_for()
    assert page.locator(".sync-badge").inner_text() == "+4 f"
    page.get_by_role("button", name="Back into sync").click()
    page.get_by_text("In sync with the picture").wait_for()
    assert voice(made)[0]["start"] == 5 * 48000


def test_tracks_are_drawn_in_sight_and_close_to_it(bench, made):
    """A clip is there before its track scrolls in, and of what is far below there is none."""
    song = next(m["id"] for m in made.document["media"] if m["path"] == "song.wav")
    for k in range(18):
        clip = {"id": f"c{k}", "media": song, "start": 0, "length": 48000 * 20}
        made.edit(kind="add_track", track={"id": f"t{k}", "name": f"More {k}", "clips": [clip]})
    page = bench.page
    page.locator("[data-clip=c0]").wait_for()
    edge = page.locator(".tracks").bounding_box()

    def tops():
        return {
            k: page.locator(f"[data-track=t{k}]").bounding_box()["y"] - edge["y"] - edge["height"]
            for k in range(18)
        }

    def drawn():
        return {k for k in range(18) if page.locator(f"[data-clip=c{k}]").count()}

    below = tops()
    near = {k for k, top in below.items() if 0 < top < 350}
    assert near
    assert near <= drawn()
    assert not {k for k, top in below.items() if top > 450} & drawn()
    page.locator("[data-track=t17]").scroll_into_view_if_needed()
    page.locator("[data-clip=c17]").wait_for()
    assert 0 not in drawn()
