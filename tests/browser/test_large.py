"""A reel as large as one may be: opened, moved about in, edited and heard."""

import pytest
from conftest import RATE, Bench, Made

TRACKS, CLIPS, SPANS = 300, 10_000, 5_000
SPAN = 12 * RATE // 1000 * 10
"""120 ms."""


def large(song: dict) -> list:
    """300 tracks of 33 clips each, the first of which holds 5,000 treated spans and a chain."""
    clip = {"media": song["id"], "length": 20 * RATE}
    tracks = []
    for t in range(TRACKS):
        each = CLIPS // TRACKS + (t < CLIPS % TRACKS)
        clips = [clip | {"id": f"c{t}-{k}", "start": (20 * k + t % 10) * RATE} for k in range(each)]
        tracks.append({"id": f"t{t}", "name": f"Track {t + 1}", "gain_db": -50, "clips": clips})
    muffle = {"id": "e", "kind": "muffle", "params": {"high_cut_hz": 900}}
    tracks[0] |= {
        "id": "music",
        "name": "Music",
        "gain_db": 0,
        "treatments": [
            {"id": f"f{k}", "start": k * SPAN, "length": SPAN, "effects": [muffle]}
            for k in range(SPANS)
        ],
        "treatment": {
            "effects": [{"id": f"g{k}", "kind": "gain", "params": {}} for k in range(64)]
        },
    }
    return tracks


@pytest.mark.long
def test_300_tracks_10_000_clips_and_5_000_spans(owner, files, page, server, tmp_path):
    api, song = owner.api, owner.lines["song.wav"]
    reel = api.post("/api/reels", {"name": "Large"})["id"]
    made = Made(reel, api, {song["id"]: files["song.wav"]})
    made.edit(kind="add_medium", medium={"id": song["id"], "path": song["name"]})
    for track in large(song):
        made.edit(kind="add_track", track=track)
    page.context.add_cookies(api.cookies())
    page.goto(f"{server.url}/reels/{reel}")
    page.wait_for_selector("[data-track=music] .clip")
    bench = Bench(page)
    # Only what is in sight is drawn.
    assert page.locator(".clip").count() < 2000
    level = page.get_by_role("textbox", name="Level of Music")
    level.fill("-3")
    level.press("Enter")
    bench.saved()
    assert made.document["tracks"][0]["gain_db"] == -3
    places, sound = bench.played(250, 4)
    assert places.size > 2 * RATE
    differs = (sound != made.render(tmp_path)[:, places]).any(axis=0)
    assert not differs.any(), (differs.sum(), places[differs][:5])
