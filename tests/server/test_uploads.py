"""Uploads that go on where they stopped, by the tus protocol 1.0.0 (tus.io specification)."""

import base64

import numpy as np
import pytest
from conftest import wav
from django.test import Client

from bathyphon.server.media.models import Blob, Media, Upload
from bathyphon.server.media.storage import blob_storage, local_file
from reels import noise

PART = "application/offset+octet-stream"


@pytest.fixture
def client(api):
    made = Client()
    made.force_login(api.user)
    return made


@pytest.fixture
def content(tmp_path):
    return wav(noise(48_000), tmp_path)


def begin(client, size, name="line.wav"):
    said = base64.b64encode(name.encode()).decode()
    return client.post(
        "/api/uploads", headers={"Upload-Length": str(size), "Upload-Metadata": f"filename {said}"}
    )


def part(client, where, data, offset):
    return client.patch(where, data, content_type=PART, headers={"Upload-Offset": str(offset)})


def test_a_file_arrives_in_parts_and_becomes_a_medium(client, content):
    where = begin(client, len(content))["Location"]
    half = len(content) // 2
    assert part(client, where, content[:half], 0)["Upload-Offset"] == str(half)
    # After a lost connection the client asks how far it came.
    answer = client.head(where)
    assert (answer["Upload-Offset"], answer["Upload-Length"]) == (str(half), str(len(content)))
    assert client.get("/api/uploads").json()["uploads"][0]["offset"] == half
    assert part(client, where, content[half:], half).status_code == 204
    media = Media.objects.get(pk=client.get(where).json()["media"])
    assert local_file(media.blob).read_bytes() == content
    assert media.name == "line.wav"
    assert client.get("/api/uploads").json()["uploads"] == []
    # The last answer may be lost as well: asking again shows that all is there.
    assert client.head(where)["Upload-Offset"] == str(len(content))


def test_a_part_at_the_wrong_place_changes_nothing(client, content):
    where = begin(client, len(content))["Location"]
    part(client, where, content[:100], 0)
    assert part(client, where, content[:100], 0).status_code == 409
    assert part(client, where, content, 100).status_code == 413
    assert client.head(where)["Upload-Offset"] == "100"
    wrong = client.patch(where, b"x", content_type="text/plain", headers={"Upload-Offset": "100"})
    assert wrong.status_code == 415


def test_an_upload_can_be_given_up(client, content):
    where = begin(client, len(content))["Location"]
    part(client, where, content[:100], 0)
    path = Upload.objects.get().path
    assert client.delete(where).status_code == 204
    assert not path.exists()
    assert client.head(where).status_code == 404


def test_limits_are_checked_before_anything_is_sent(client, settings):
    settings.BATHYPHON_LARGEST_UPLOAD = 1000
    answer = begin(client, 1001)
    assert answer.status_code == 422
    assert "larger" in answer.json()["detail"]
    assert "empty" in begin(client, 0).json()["detail"]
    settings.BATHYPHON_LARGEST_UPLOAD = 10**9
    settings.BATHYPHON_ACCOUNT_LIMIT = 500
    assert "does not fit" in begin(client, 600).json()["detail"]


@pytest.mark.parametrize("name", ["../../etc/passwd", "a\\b\\c.wav", "x\0\n.wav", "/abs.wav"])
def test_names_with_folders_lose_them(client, name):
    begin(client, 10, name)
    kept = Upload.objects.get().name
    assert "/" not in kept
    assert "\\" not in kept
    assert kept.isprintable()


def test_another_account_cannot_touch_it(client, stranger, content):
    where = begin(client, len(content))["Location"]
    other = Client()
    other.force_login(stranger.user)
    assert other.head(where).status_code == 404
    assert part(other, where, content, 0).status_code == 404
    assert other.delete(where).status_code == 404
    assert other.get("/api/uploads").json()["uploads"] == []
    assert Client().head(where).status_code == 401


def test_media_may_lie_in_an_s3_compatible_store(client, content, settings, tmp_path):
    from moto.server import ThreadedMotoServer

    server = ThreadedMotoServer("127.0.0.1", 0)
    server.start()
    host, port = server.get_host_and_port()
    try:
        options = {
            "bucket_name": "reels", "endpoint_url": f"http://{host}:{port}",
            "access_key": "a", "secret_key": "b", "region_name": "us-east-1",
        }  # fmt: skip
        s3 = {"BACKEND": "storages.backends.s3.S3Storage", "OPTIONS": options}
        settings.STORAGES = {**settings.STORAGES, "blobs": s3}
        blob_storage().bucket.create()
        where = begin(client, len(content))["Location"]
        part(client, where, content, 0)
        blob = Blob.objects.get()
        assert blob_storage().size(blob.name) == len(content)
        assert local_file(blob).read_bytes() == content
    finally:
        server.stop()


def test_nothing_is_stored_twice(client, content):
    for _ in range(2):
        part(client, begin(client, len(content))["Location"], content, 0)
    assert Blob.objects.count() == 1
    assert Media.objects.count() == 2
    assert np.frombuffer(local_file(Blob.objects.get()).read_bytes()[:4], "S4")[0] == b"RIFF"
