"""Media laid into a reel: files that come in, sounds from the shelf."""

import pytest

from bathyphon.core.edits import apply_edit, parse_command
from bathyphon.core.errors import Refused
from bathyphon.core.reel.parse import read_reel

RATE = 48000
EMPTY = {
    "format": "bathyphon-reel", "version": 1, "frame_rate": "25/1", "sample_rate": RATE,
    "media": [], "tracks": [],
}  # fmt: skip
SOUND = {"samples": 44100 * 4, "rate": 44100, "starts": 0}


def done(document, **command):
    return apply_edit(document, read_reel(document), parse_command(command))


def film(starts=0):
    return {
        "kind": "lay_file", "media": "m1", "path": "shot 3.final.mov", "picture_frames": 100,
        "sound": {**SOUND, "starts": starts}, "track": "t1", "clip": "c1",
    }  # fmt: skip


@pytest.mark.parametrize(
    ("starts", "start", "inside"), [(0, 0, 0), (4410, 4800, 0), (-4410, 0, 4800)]
)
def test_a_film_brings_its_picture_and_its_sound_in_sync(starts, start, inside):
    edit = done(EMPTY, **film(starts))
    assert edit.document["picture"]["clips"] == [
        {"media": "m1", "start": 0, "length": 100 * 1920, "source_start": 0}
    ]
    (track,) = edit.reel.tracks
    assert track.name == "Picture sound"
    (clip,) = track.clips
    assert (clip.start, clip.source_start) == (start, inside)
    assert clip.length == 4 * RATE - inside
    assert edit.title == "bring in shot 3.final.mov"


def test_a_second_film_brings_only_its_sound():
    first = done(EMPTY, **film()).document
    second = film() | {"media": "m2", "path": "b.mov", "track": "t2", "clip": "c2"}
    edit = done(first, **second)
    assert edit.document["picture"] == first["picture"]
    assert [t.name for t in edit.reel.tracks] == ["Picture sound", "b"]


@pytest.mark.parametrize("samples", [1, 44099, 44101, 12_345_678])
@pytest.mark.parametrize("rate", [22050, 44100, 48000, 96000, 192000])
def test_a_sound_of_any_rate_is_laid_whole(samples, rate):
    first = done(EMPTY, **film()).document
    edit = done(
        first, kind="lay_sound", media="m1", sound={"samples": samples, "rate": rate}, clip="c2",
        at={"frame": 10}, new_track="t2",
    )  # fmt: skip
    clip = edit.reel.tracks[1].clips[0]
    assert clip.start == 19200
    assert 0 <= clip.length * rate - samples * RATE < rate


def test_the_same_medium_is_laid_as_often_as_one_likes_and_in_parts():
    document = done(EMPTY, **film()).document
    for k in range(4):
        document = done(
            document, kind="lay_sound", media="m1", sound=SOUND, clip=f"d{k}", track="t1",
            at={"sample": (k + 5) * RATE}, part=[k * 4410, (k + 2) * 4410],
        ).document  # fmt: skip
    laid = read_reel(document).tracks[0].clips[1:]
    assert [(c.source_start, c.length) for c in laid] == [(k * 4800, 9600) for k in range(4)]
    assert [c.name for c in laid] == ["shot 3.final.mov"] * 4


@pytest.mark.parametrize(
    ("change", "where"),
    [
        ({"media": "gone"}, "media"),
        ({"track": None}, "track"),
        ({"track": "t1", "new_track": "t2"}, "track"),
        ({"part": [9, 9]}, "part"),
        ({"part": [10**12, 10**13]}, "part"),
        ({"track": "gone"}, "track"),
        ({"clip": "c1"}, ""),
        ({"sound": {"samples": 0, "rate": RATE}}, "sound.samples"),
    ],
)
def test_what_cannot_be_laid_is_refused_with_its_place(change, where):
    document = done(EMPTY, **film()).document
    command = {
        "kind": "lay_sound", "media": "m1", "sound": SOUND, "clip": "c2", "track": "t1",
        "at": {"frame": 0}, **change,
    }  # fmt: skip
    with pytest.raises(Refused) as refused:
        done(document, **command)
    assert where in refused.value.where


def test_only_a_medium_that_nothing_uses_is_removed():
    document = done(EMPTY, **film()).document
    with pytest.raises(Refused, match="in use"):
        done(document, kind="remove_medium", id="m1")
    listed = done(document, kind="add_medium", medium={"id": "m2", "path": "spare.wav"}).document
    edit = done(listed, kind="remove_medium", id="m2")
    assert edit.document == document
    assert edit.title == "remove spare.wav"
    # An impulse response is in use, too.
    space = {"id": "e", "kind": "space", "params": {"file": "m2"}}
    wet = done(listed, kind="add_effect", owner="track:t1", effect=space).document
    with pytest.raises(Refused, match="in use"):
        done(wet, kind="remove_medium", id="m2")
