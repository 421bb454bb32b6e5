"""Templates: empty places that ask for files, and keep all that was done."""

from __future__ import annotations

import copy

from bathyphon.core.edits.prints import print_of, touched
from bathyphon.core.edits.uses import as_template, uses_of_media
from bathyphon.core.reel.parse import read_reel
from edits import apply, assert_all_is_undone_and_redone


def reel():
    space = {"id": "s", "kind": "space", "params": {"file": "room", "mix": 30}}
    clips = [
        {"id": "c1", "media": "song", "start": 0, "length": 48_000,
         "treatment": {"effects": [space]}},
        {"id": "c2", "media": "rain", "start": 48_000, "length": 48_000},
    ]  # fmt: skip
    return {
        "format": "bathyphon-reel", "version": 1, "frame_rate": "25/1", "sample_rate": 48_000,
        "media": [{"id": "song", "path": "song.wav", "beats": {"shift": 9}},
                  {"id": "room", "path": "room.wav"}, {"id": "rain", "path": "Rain.sound"},
                  {"id": "film", "path": "film.mp4"}],
        "picture": {"clips": [{"media": "film", "start": 0, "length": 96_000}], "cuts": [25]},
        "tracks": [{"id": "t", "name": "All", "clips": clips, "treatments": []}],
    }  # fmt: skip


def test_everything_but_the_files_stays():
    before = reel()
    made = as_template(before, ["song", "room", "film"])
    read_reel(made)
    assert before == reel()
    assert [(m["path"], m.get("place", False)) for m in made["media"]] == [
        ("song.wav", True), ("room.wav", True), ("Rain.sound", False), ("film.mp4", True)
    ]  # fmt: skip
    ids = {m["id"] for m in made["media"]}
    assert "rain" in ids
    assert not ids & {"song", "room", "film"}
    # What names a medium names its place; what was done with it is as it was.
    by_path = {tuple(p) for p in uses_of_media(made)}
    assert by_path == {tuple(p) for p in uses_of_media(before)}
    back = copy.deepcopy(made)
    names = {m["id"]: old["id"] for m, old in zip(made["media"], before["media"], strict=True)}
    for path in uses_of_media(made):
        part = back
        for key in path[:-1]:
            part = part[key]
        part[path[-1]] = names[part[path[-1]]]
    assert {k: v for k, v in back.items() if k != "media"} == {
        k: v for k, v in before.items() if k != "media"
    }


def test_what_a_recipe_made_is_still_as_it_made_it_and_what_was_touched_is_touched():
    before = reel()
    whole, changed = (
        {"id": id, "recipe": "r", "parts": [f"clip:{clip}"],
         "prints": [print_of(before, f"clip:{clip}")]}
        for id, clip in (("r1", "c1"), ("r2", "c2"))
    )  # fmt: skip
    before["made"] = [whole, {**changed, "prints": ["another"]}, {"id": "r3", "recipe": "r"}]
    made = as_template(before, ["song", "rain"])
    assert [touched(made, one) for one in made["made"]] == [[], ["clip:c2"], []]


def test_a_file_takes_an_empty_place_for_good():
    made = as_template(reel(), ["song"])
    place = made["media"][0]["id"]
    command = {"kind": "relink_medium", "id": place, "to": "new", "path": "other song.wav"}
    edit = apply(made, **command)
    assert edit.title == "put other song.wav in the place of song.wav"
    assert edit.document["media"][0] == {"id": "new", "path": "other song.wav"}
    assert edit.document["tracks"][0]["clips"][0]["media"] == "new"
    assert_all_is_undone_and_redone(made, [command])
