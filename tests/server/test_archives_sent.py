"""Reels as one file over HTTP: handed out, opened elsewhere, refused if not whole."""

from __future__ import annotations

import base64
import io
import json
import zipfile

import pytest
from conftest import bring_in, wav
from django.test import Client

from bathyphon.formats.archive import Archive
from bathyphon.server.media.models import Media, Upload
from bathyphon.server.media.storage import local_file
from bathyphon.server.reels.head import head_of
from bathyphon.server.reels.journal import create_reel
from bathyphon.server.reels.models import Reel
from reels import noise

PART = "application/offset+octet-stream"


def fetched(api, reel):
    answer, data = api.fetch(f"/api/reels/{reel.pk}/archive.zip")
    assert answer.status_code == 200, data
    return answer, data


def send(user, data, name="sump.zip", holds="archive"):
    """As the page sends it; the answer to the last part, and the upload's place."""
    client = Client()
    client.force_login(user)
    said = {"filename": name, "holds": holds}
    encoded = ",".join(f"{k} {base64.b64encode(v.encode()).decode()}" for k, v in said.items())
    headers = {"Upload-Length": str(len(data)), "Upload-Metadata": encoded}
    begun = client.post("/api/uploads", headers=headers)
    if begun.status_code != 201:
        return begun, None
    where = begun["Location"]
    answer = client.patch(where, data, content_type=PART, headers={"Upload-Offset": "0"})
    return answer, client.get(where)


def test_it_is_opened_by_somebody_else_with_the_same_media(api, stranger, reel, media, tmp_path):
    answer, data = fetched(api, reel)
    assert "attachment" in answer["Content-Disposition"]
    sent, there = send(stranger.user, data)
    assert sent.status_code == 204
    opened = Reel.visible_to(stranger.user).get(pk=there.json()["made"])
    document = head_of(opened.pk, opened.revision).document
    (row,) = Media.visible_to(stranger.user)
    assert row.pk != media.pk
    assert local_file(row.blob).read_bytes() == local_file(media.blob).read_bytes()
    assert document["media"] == [{"id": str(row.pk), "path": "noise.wav"}]
    assert document["tracks"][0]["clips"][0]["media"] == str(row.pk)
    before = head_of(reel.pk, reel.revision).document
    assert document["tracks"][0]["treatments"] == before["tracks"][0]["treatments"]
    # What comes back is what went out.
    _, again = stranger.fetch(f"/api/reels/{opened.pk}/archive.zip")
    for name, content in (("one.zip", data), ("two.zip", again)):
        (tmp_path / name).write_bytes(content)
    with Archive(tmp_path / "one.zip") as one, Archive(tmp_path / "two.zip") as two:
        assert [m.sha256 for m in one.media] == [m.sha256 for m in two.media]


def test_the_second_sound_of_a_film_stays_the_second(api, stranger, reel, media, tmp_path):
    Media.objects.filter(pk=media.pk).update(stream=1)
    _, data = fetched(api, reel)
    (tmp_path / "a.zip").write_bytes(data)
    with Archive(tmp_path / "a.zip") as archive:
        assert archive.document["media"][0]["stream"] == 1
    assert send(stranger.user, data)[0].status_code == 204
    assert Media.visible_to(stranger.user).get().stream == 1


def test_a_medium_that_is_gone_stays_a_name(api, reel, media, tmp_path):
    other = bring_in(api.user, "other.wav", wav(noise(4800), tmp_path, name="y.wav"))
    document = head_of(reel.pk, reel.revision).document
    listed = [*document["media"], {"id": str(other.pk), "path": "other.wav"}]
    both = create_reel(api.user, {**document, "media": listed})
    local_file(other.blob).unlink()
    _, data = fetched(api, both)
    (tmp_path / "a.zip").write_bytes(data)
    with Archive(tmp_path / "a.zip") as archive:
        assert [m.name for m in archive.media] == ["noise.wav"]
        assert archive.document["media"] == listed


def spoilt(data, way):
    with zipfile.ZipFile(io.BytesIO(data)) as old:
        entries = {name: old.read(name) for name in old.namelist()}
    medium = next(n for n in entries if n.startswith("media/"))
    if way == "damaged":
        entries[medium] = b"?" + entries[medium][1:]
    elif way == "foreign":
        entries["../../etc/cron.d/evil"] = b"x"
    elif way == "newer":
        contents = json.loads(entries["archive.json"])
        entries["archive.json"] = json.dumps({**contents, "version": 99}).encode()
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as new:
        for name, content in entries.items():
            new.writestr(name, content)
    return out.getvalue()


@pytest.mark.parametrize(
    ("way", "says"),
    [("damaged", "its hash is another"), ("foreign", "belongs in no archive"),
     ("newer", "newer version"), ("no zip", "no archive")],
)  # fmt: skip
def test_what_is_not_whole_leaves_nothing(api, stranger, reel, way, says):
    _, data = fetched(api, reel)
    answer, there = send(stranger.user, b"RIFF" * 50 if way == "no zip" else spoilt(data, way))
    assert answer.status_code == 422
    assert says in answer.json()["detail"]
    assert "“sump.zip” cannot be opened" in answer.json()["detail"]
    assert there.status_code == 404
    assert not Reel.visible_to(stranger.user)
    assert not Media.visible_to(stranger.user)
    assert not Upload.objects.filter(account=stranger.user)


def test_only_what_somebody_takes_is_taken(api):
    answer, _ = send(api.user, b"x", holds="a horse")
    assert answer.status_code == 422
    assert "nothing that can be sent here" in answer.json()["detail"]


def test_another_accounts_reel_is_not_handed_out(stranger, reel):
    answer, _ = stranger.fetch(f"/api/reels/{reel.pk}/archive.zip")
    assert answer.status_code == 404


def test_without_an_account_there_is_nothing(reel, client):
    assert client.get(f"/api/reels/{reel.pk}/archive.zip").status_code == 401
