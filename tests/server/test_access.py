"""What belongs to one account does not exist for another."""

import uuid

import pytest
from django.test import Client

from bathyphon.server.exports.models import Export


@pytest.fixture
def export(api, reel):
    made = Export.objects.create(
        reel=reel, account=api.user, revision=0, state=Export.DONE, name="x.wav"
    )
    made.path.parent.mkdir(parents=True, exist_ok=True)
    made.path.write_bytes(b"RIFF")
    return made


def paths(reel, media, export):
    return [
        ("get", f"/api/reels/{reel.pk}"),
        ("get", f"/api/reels/{reel.pk}/history"),
        ("get", f"/api/reels/{reel.pk}/exports"),
        ("get", f"/api/reels/{reel.pk}/sound/treated/0"),
        ("post", f"/api/reels/{reel.pk}/sound/treated/0"),
        ("delete", f"/api/reels/{reel.pk}"),
        ("get", f"/api/media/{media.pk}"),
        ("delete", f"/api/media/{media.pk}"),
        ("fetch", f"/api/media/{media.pk}/peaks-256.i16"),
        ("fetch", f"/api/media/{media.pk}/profile.f32"),
        ("fetch", f"/api/exports/{export.pk}/file"),
        ("post", f"/api/exports/{export.pk}/cancel"),
    ]


def status(answer):
    return (answer[0] if isinstance(answer, tuple) else answer).status_code


def test_another_account_gets_404_for_everything(stranger, reel, media, export):
    for method, path in paths(reel, media, export):
        assert status(getattr(stranger, method)(path)) == 404, path
    assert stranger.edit(reel, 0, kind="add_cut", frame=3).status_code == 404
    assert stranger.turn(reel, "undo", 1).status_code == 404
    assert stranger.post(f"/api/reels/{reel.pk}/exports", {"bits": "24"}).status_code == 404
    assert stranger.get("/api/reels").json() == []
    assert stranger.get("/api/media").json() == []


def test_the_owner_gets_them(api, reel, media, export):
    for method, path in paths(reel, media, export):
        if method in ("get", "fetch"):
            assert status(getattr(api, method)(path)) == 200, path


def test_a_stranger_s_medium_cannot_be_put_into_a_reel(api, stranger, media):
    made = stranger.post("/api/reels", {"name": "Mine"}).json()
    data = {
        "edit_id": str(uuid.uuid4()),
        "base": 0,
        "commands": [{"kind": "add_medium", "medium": {"id": str(media.pk), "path": "noise.wav"}}],
    }
    assert stranger.post(f"/api/reels/{made['id']}/edits", data).status_code == 422


def test_nobody_gets_anything(reel, media, export):
    client = Client()
    for _, path in paths(reel, media, export):
        assert client.get(path).status_code in (401, 404, 405)
    assert client.get("/api/reels").status_code == 401


def test_only_prepared_parts_are_served_never_the_file_itself(api, media):
    for part in ("sound-48000.f32", "x", "..%2f..%2fsecret", media.blob.digest):
        assert status(api.fetch(f"/api/media/{media.pk}/{part}")) == 404
