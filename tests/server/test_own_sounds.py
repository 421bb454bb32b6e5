"""Folders of one's own: taken in, found by words, tagged, laid; thousands answer at once."""

from __future__ import annotations

import base64
import uuid

import numpy as np
import pytest
from conftest import bring_in, wav
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext

from bathyphon.server.media.models import Blob, Media, Upload
from bathyphon.server.media.own import plain_folder
from bathyphon.server.media.tasks import bring_in_other_sounds
from reels import noise

PART = "application/offset+octet-stream"
PATH = "/api/sounds/own"
KINDS = ("rain", "wind", "door", "drip", "steps")


def send(user, data, name="brook.wav", folder="Water/Brooks"):
    client = Client()
    client.force_login(user)
    said = {"filename": name, "holds": "sound", "folder": folder}
    encoded = ",".join(f"{k} {base64.b64encode(v.encode()).decode()}" for k, v in said.items())
    headers = {"Upload-Length": str(len(data)), "Upload-Metadata": encoded}
    begun = client.post("/api/uploads", headers=headers)
    if begun.status_code != 201:
        return begun, None
    where = begun["Location"]
    client.patch(where, data, content_type=PART, headers={"Upload-Offset": "0"})
    return begun, client.get(where).json()["made"]


@pytest.fixture
def content(tmp_path):
    return wav(noise(9600), tmp_path)


def test_a_sound_is_taken_in_once_and_found_by_name_folder_and_tag(api, stranger, content):
    _, id = send(api.user, content)
    assert send(api.user, content)[1] == id
    assert send(api.user, content, folder="Elsewhere")[1] != id
    api.patch(f"{PATH}/{id}", {"tags": ["cold ", "stream", "cold"]})
    for text, count in (
        ("brook", 2),
        ("WATER brooks", 1),
        ("stream cold", 1),
        ("fire", 0),
        ("", 2),
    ):
        found = api.get(f"{PATH}?text={text}").json()
        assert found["total"] == len(found["sounds"]) == count, text
    (line,) = api.get(f"{PATH}?text=cold").json()["sounds"]
    assert (line["folder"], line["tags"]) == ("Water/Brooks", ["cold", "stream"])
    assert stranger.get(PATH).json()["total"] == 0
    assert stranger.patch(f"{PATH}/{id}", {"tags": []}).status_code == 404
    assert stranger.post(f"{PATH}/{id}/used").status_code == 404
    assert stranger.delete(f"{PATH}/{id}").status_code == 404


def test_it_tells_its_loudness_and_length_once_it_has_been_prepared(api, tmp_path):
    row = bring_in(api.user, "loud.wav", wav(noise(96_000), tmp_path))
    Media.objects.filter(pk=row.pk).update(own=True, listed=False, words="loud.wav")
    (line,) = api.get(PATH).json()["sounds"]
    assert line["seconds"] == pytest.approx(2.0, abs=0.01)
    assert line["loudness"] == pytest.approx(row.info["sound"]["loudness"])
    assert line["state"] == "ready"


def test_other_sounds_of_one_file_lie_on_the_shelf_beside_it(api, content):
    _, id = send(api.user, content)
    row = Media.objects.get(pk=id)
    row.info = {"sounds": 3}
    bring_in_other_sounds(row)
    assert api.get("/api/media").json() == []
    found = api.get(f"{PATH}?text=brooks").json()
    assert {line["folder"] for line in found["sounds"]} == {"Water/Brooks"}
    assert found["total"] == 3


def test_it_is_listed_with_the_media_from_when_it_is_laid(api, content):
    _, id = send(api.user, content)
    assert api.get("/api/media").json() == []
    assert api.post(f"{PATH}/{id}/used").json()["id"] == id
    assert [m["id"] for m in api.get("/api/media").json()] == [id]
    # Taken off the shelf it stays in the reels that use it.
    assert api.delete(f"{PATH}/{id}").status_code == 204
    assert api.get(PATH).json()["total"] == 0
    assert [m["id"] for m in api.get("/api/media").json()] == [id]


def test_one_that_no_reel_uses_goes_whole(api, content):
    _, id = send(api.user, content)
    assert api.delete(f"{PATH}/{id}").status_code == 204
    assert not Media.objects.filter(pk=id).exists()
    assert not Upload.objects.filter(account=api.user, made=None).exists()


@pytest.mark.parametrize("folder", ["/etc", "../up", "a/../../b", "C:\\x", "a\\b"])
def test_a_folder_that_leads_elsewhere_is_refused(api, content, folder):
    answer, _ = send(api.user, content, folder=folder)
    assert answer.status_code == 422
    assert "within what was chosen" in answer.json()["detail"]
    assert plain_folder("a/b/./c") == "a/b/c"


def test_five_thousand_are_asked_for_in_two_questions_and_a_page_of_them_comes(api, content):
    chance = np.random.default_rng(1)
    blob = Blob.objects.create(digest="0" * 64, size=1)
    kinds = [KINDS[k] for k in chance.integers(0, len(KINDS), 5000)]
    Media.objects.bulk_create(
        Media(account=api.user, blob=blob, name=f"{kind} {n}.wav", own=True, listed=False,
              folder=f"Library/{kind}", words=f"{kind} {n}.wav library/{kind} take{n % 7}")
        for n, kind in enumerate(kinds)
    )  # fmt: skip
    with CaptureQueriesContext(
        connection,
    ) as asked:
        found = api.get(f"{PATH}?text=rain take3").json()
    expected = [n for n, kind in enumerate(kinds) if kind == "rain" and n % 7 == 3]
    assert found["total"] == len(expected)
    assert len(found["sounds"]) == min(100, len(expected))
    # Session and account aside.
    assert len([q for q in asked if "media_media" in q["sql"]]) == 2
    assert api.get("/api/media").json() == []


def test_tags_have_limits(api, content):
    _, id = send(api.user, content)
    many = [uuid.uuid4().hex[:8] for _ in range(41)]
    answer = api.patch(f"{PATH}/{id}", {"tags": many})
    assert answer.status_code == 422
    assert "no more than 40" in answer.json()["detail"]
