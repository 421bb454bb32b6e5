"""Sounds that ship, over HTTP: found, listened to, made media that are prepared like any."""

import io

import numpy as np
import pytest
import soundfile
from conftest import prepare_here

from bathyphon.core.sounds.made import make, sound_of
from bathyphon.formats.conform import ConformedFile
from bathyphon.server.media.models import Media

PATH = "/api/sounds"


def test_the_shelf_lists_models_with_what_can_be_set(api):
    shelf = api.get(PATH).json()
    assert len(shelf["models"]) >= 15
    assert len(shelf["sounds"]) >= 60
    rain = next(m for m in shelf["models"] if m["id"] == "rain")
    assert [p["id"] for p in rain["parameters"]] == ["intensity", "on", "distance"]
    assert rain["parameters"][1]["choices"] == ["ground", "leaves", "roof", "water"]
    assert all(s["settings"] for s in shelf["sounds"])


def test_words_find_them(api):
    found = api.get(f"{PATH}/found?text=tin+roof").json()
    assert found[0] == "rain/rain-on-a-tin-roof"
    assert api.get(f"{PATH}/found?text=xylograph").json() == []
    assert api.get(f"{PATH}/found?text={'x' * 300}").status_code == 422


@pytest.mark.parametrize("body", [
    {"model": "knock", "settings": {"times": 2}},
    {"model": "underwater", "settings": {"depth": 80}, "seed": 4, "seconds": 100},
])  # fmt: skip
def test_what_is_listened_to_is_the_sound(api, body):
    answer = api.post(f"{PATH}/heard.wav", body)
    assert answer.status_code == 200
    heard, rate = soundfile.read(io.BytesIO(answer.content), always_2d=True)
    assert rate == 48000
    meant = np.concatenate(
        list(sound_of(make(body["model"], body["settings"], body.get("seed", 1), 12.0))), axis=1
    ).T
    assert len(heard) == min(len(meant), 12 * rate)
    inside = slice(2000, len(heard) - 2000)
    np.testing.assert_allclose(heard[inside], meant[: len(heard)][inside], atol=5e-5)


def test_the_same_settings_are_one_medium_and_it_is_prepared(api):
    body = {"model": "knock", "name": "Knock", "settings": {"times": 1}, "rate": 44100}
    one = api.post(f"{PATH}/made", body)
    assert one.status_code == 201
    line = one.json()
    assert api.post(f"{PATH}/made", body).json()["media"]["id"] == line["media"]["id"]
    assert line["media"]["name"] == "Knock.sound"
    media = Media.objects.get(pk=line["media"]["id"])
    info = prepare_here(media)
    assert info["sound"]["samples"] == line["samples"]
    assert info["sound"]["rate"] == 44100
    other = api.post(f"{PATH}/made", {**body, "seed": 2}).json()["media"]["id"]
    assert other != line["media"]["id"]


@pytest.mark.parametrize(("seconds", "long"), [(5, 60), (55, 120), (3000, 3600)])
def test_a_bed_is_longer_than_is_asked_for(api, seconds, long):
    body = {"model": "rain", "seconds": seconds}
    assert api.post(f"{PATH}/made", body).json()["samples"] == long * 48000


@pytest.mark.parametrize(
    ("body", "says"),
    [
        ({"model": "lava"}, "no model “lava”"),
        ({"model": "rain", "settings": {"intensity": 400}}, "between 0 and 100"),
        ({"model": "rain", "seconds": -1}, "greater than 0"),
        ({"model": "rain", "seconds": 1e9}, "less than or equal"),
        ({"model": "rain", "seed": -5}, "greater than or equal"),
    ],
)
@pytest.mark.parametrize("what", ["made", "heard.wav"])
def test_what_cannot_be_made_says_why(api, what, body, says):
    answer = api.post(f"{PATH}/{what}", body)
    assert answer.status_code == 422
    assert says in answer.json()["detail"].lower() or says in answer.json()["detail"]
    assert Media.objects.count() == 0


def test_another_account_makes_its_own(api, stranger):
    body = {"model": "bell", "settings": {"ring": 1}}
    mine = api.post(f"{PATH}/made", body).json()["media"]["id"]
    theirs = stranger.post(f"{PATH}/made", body).json()["media"]["id"]
    assert mine != theirs
    assert stranger.get(f"/api/media/{mine}").status_code == 404


def test_a_bed_becomes_longer_and_stays_the_same_sound(api):
    body = {"model": "room", "name": "Air", "settings": {"air": 60}, "seconds": 20}
    short = api.post(f"{PATH}/made", body).json()
    long = api.post(f"{PATH}/longer", {"media": short["media"]["id"], "seconds": 70}).json()
    assert (short["samples"], long["samples"]) == (60 * 48000, 120 * 48000)
    sounds = []
    for line in (short, long):
        media = Media.objects.get(pk=line["media"]["id"])
        prepare_here(media)
        sounds.append(ConformedFile(media.sound_path).read(0, 60 * 48000))
    assert np.array_equal(*sounds)


def test_only_beds_become_longer(api, stranger, media):
    bell = api.post(f"{PATH}/made", {"model": "bell"}).json()["media"]["id"]
    bed = api.post(f"{PATH}/made", {"model": "rain"}).json()["media"]["id"]
    for who, id in ((api, bell), (api, str(media.pk)), (stranger, bed)):
        assert who.post(f"{PATH}/longer", {"media": id, "seconds": 70}).status_code == 422


def test_a_medium_whose_files_are_gone_is_made_anew(api):
    body = {"model": "knock", "settings": {"times": 1}}
    line = api.post(f"{PATH}/made", body).json()["media"]
    media = Media.objects.get(pk=line["id"])
    media.info = prepare_here(media)
    media.state = Media.READY
    media.save()
    assert api.post(f"{PATH}/made", body).json()["media"]["id"] == line["id"]
    media.sound_path.unlink()
    assert api.post(f"{PATH}/made", body).json()["media"]["id"] != line["id"]
