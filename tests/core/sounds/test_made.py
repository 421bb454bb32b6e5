"""Files of computed sounds: read, refused in a sentence, and heard like any medium."""

from __future__ import annotations

import json

import numpy as np
import pytest

from bathyphon.cli import main
from bathyphon.core.errors import Refused
from bathyphon.core.sounds.made import make, read_made
from bathyphon.core.sounds.shelf import SOUNDS, find_sounds
from bathyphon.formats.computed import computed, written
from bathyphon.formats.conform import ConformedFile, conform

GOOD = {
    "format": "bathyphon-sound",
    "version": 1,
    "model": "rain",
    "settings": {"on": "roof"},
    "seconds": 3.0,
}


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"model": "lava"}, "no model “lava”"),
        ({"model_version": 99}, "newer version of Rain"),
        ({"version": 2}, "cannot be read"),
        ({"seconds": 0}, "cannot be read"),
        ({"seconds": 1e9}, "cannot be read"),
        ({"seed": -1}, "cannot be read"),
        ({"settings": {"on": "tin"}}, "one of ground, leaves, roof, water"),
        ({"settings": {"intensity": 120}}, "between 0 and 100"),
    ],
)
def test_a_file_that_cannot_be_made_says_why(change, says, tmp_path):
    with pytest.raises(Refused, match=says):
        read_made({**GOOD, **change})
    path = tmp_path / "x.sound"
    path.write_text(json.dumps({**GOOD, **change}))
    with pytest.raises(Refused, match=r"x\.sound"):
        computed(path)


def test_it_survives_being_written_with_keys_of_other_versions():
    made = read_made({**GOOD, "note": "for the roof"})
    again = read_made(json.loads(written(made)))
    assert again == made
    assert again.model_dump()["note"] == "for the roof"


@pytest.mark.parametrize("rate", [48000, 44100, 96000])
def test_it_is_conformed_like_any_file(tmp_path, rate):
    path = tmp_path / "roof.sound"
    path.write_bytes(written(make("rain", {"on": "roof"}, 4, 3.0)))
    found = conform(path, tmp_path / "out.f32", rate)
    assert found.samples == 3 * rate
    sound = ConformedFile(tmp_path / "out.f32")
    assert np.abs(sound.read(0, sound.samples)).max() > 0.01


def test_a_reel_that_uses_one_renders(tmp_path):
    (tmp_path / "under.sound").write_bytes(written(make("underwater", {}, 1, 4.0)))
    clip = {"id": "c", "media": "m", "start": 0, "length": 96000, "source_start": 48000}
    reel = {
        "format": "bathyphon-reel", "version": 1, "frame_rate": "25/1", "sample_rate": 48000,
        "media": [{"id": "m", "path": "under.sound"}],
        "tracks": [{"id": "t", "clips": [clip]}],
    }  # fmt: skip
    (tmp_path / "reel.json").write_text(json.dumps(reel))
    out = tmp_path / "out.wav"
    assert main(["render", str(tmp_path / "reel.json"), str(out), "--bits", "32f"]) == 0
    import soundfile

    heard, _ = soundfile.read(out, dtype="float32")
    from bathyphon.core.sounds.made import sound_of

    meant = np.concatenate(list(sound_of(make("underwater", {}, 1, 4.0))), axis=1)
    np.testing.assert_allclose(heard.T, meant[:, 48000:144000], atol=1e-7)


WORDS = {
    "cave drops": "drips/drips-in-a-cave",
    "underwater": "underwater/under-water",
    "deep": "underwater/the-deep",
    "rain": "rain/rain",
    "tin roof": "rain/rain-on-a-tin-roof",
    "storm": "wind/storm",
    "thunder": "thunder/thunder",
    "knock": "knock/knock-at-a-door",
    "hull": "knock/knock-on-the-hull",
    "steps": "footsteps/steps-on-gravel",
    "snow": "footsteps/boots-in-snow",
    "crackle": "fire/campfire",
    "vinyl": "tape/old-record",
    "whoosh": "whoosh/whoosh",
    "riser": "riser/riser",
    "boom": "impact/deep-impact",
    "restaurant": "crowd/cafe",
    "diver": "bubbles/divers-breath",
    "walla": "crowd/cafe",
    "fridge": "machine/fridge",
    "heart": "heartbeat/heartbeat",
    "dread": "drone/low-dread",
    "static": "radio/radio-static",
    "church": "room/church",
    "splash": "splash/splash",
    "crickets": "insects/summer-night",
    "sub": "bass_drop/bass-drop",
    "city": "traffic/city-from-above",
    "door slam": "door/slammed-door",
    "bell": "bell/church-bell",
}


@pytest.mark.parametrize("words", WORDS)
def test_an_editors_word_finds_the_sound_among_the_first(words):
    first = [sound.id for _, sound in find_sounds(words)[:3]]
    assert WORDS[words] in first, first


def test_what_nothing_is_called_finds_nothing():
    assert find_sounds("xylograph") == []
    assert len(find_sounds("")) == len(SOUNDS)


def test_there_are_enough_of_them():
    assert len({sound.model.id for sound in SOUNDS.values()}) >= 15
    assert len(SOUNDS) >= 60
    for sound in SOUNDS.values():
        table = sound.model.table
        assert 2 <= len(table.parameters) <= 4
        assert table.source
        assert sound.shipped.help.endswith(".")
        sound.model.settings(sound.shipped.settings)
        assert set(sound.shipped.settings) <= {row.id for row in table.parameters}


def test_the_command_line_writes_them(tmp_path, capsys):
    out = tmp_path / "bell.wav"
    assert main(["sound", "Church bell", str(out), "pitch=300", "--json"]) == 0
    assert json.loads(capsys.readouterr().out)["settings"]["pitch"] == 300
    assert main(["sound", "churchy", str(out)]) == 2
    assert "did you mean" in capsys.readouterr().err
    assert main(["sound", "rain/rain", str(out), "on=tin"]) == 2
    assert main(["sound", "rain/rain", str(out), "wet=3"]) == 2
    assert "intensity" in capsys.readouterr().err
    assert main(["sound"]) == 0
    assert "Drips in a cave" not in capsys.readouterr().err
