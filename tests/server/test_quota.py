"""How much an account may keep: all of it counts, and of two at once only one may fit."""

import os
import time
from threading import Thread

import pytest
from django.contrib.auth.models import User
from django.db import connection
from django.test import Client

from bathyphon.server.exports.models import Export
from bathyphon.server.media.models import Media, Upload
from bathyphon.server.media.quota import used
from bathyphon.server.media.tasks import forget_left_uploads


def announce(client, size):
    return client.post("/api/uploads", headers={"Upload-Length": str(size)})


def test_what_counts(api, media, reel):
    stored = media.blob.size + media.info["bytes"]
    assert media.info["bytes"] > 4 * 48000 * 4
    assert used(api.user) == stored
    # The same file again takes nothing more.
    Media.objects.create(account=api.user, blob=media.blob, name="again", info=media.info,
                         state=Media.READY)  # fmt: skip
    assert used(api.user) == stored
    for id in Media.objects.values_list("pk", flat=True):
        assert api.delete(f"/api/media/{id}").status_code in (204, 422)
    Media.objects.update(trashed="2026-07-10T12:00:00Z")
    assert used(api.user) == stored
    announce(api._client, 1000)
    assert used(api.user) == stored + 1000
    Export.objects.create(reel=reel, account=api.user, revision=0, name="x", size=500)
    Export.objects.create(reel=reel, account=api.user, revision=0, name="y", size=90,
                          state=Export.FAILED)  # fmt: skip
    assert used(api.user) == stored + 1500


def test_nobody_else_counts(api, stranger, media):
    assert used(stranger.user) == 0


def test_what_is_promised_is_promised_once(api, settings):
    settings.BATHYPHON_ACCOUNT_LIMIT = 2500
    assert [announce(api._client, 1000).status_code for _ in range(3)] == [201, 201, 422]
    said = announce(api._client, 1000).json()["detail"]
    assert "does not fit" in said
    first = api.get("/api/uploads").json()["uploads"][0]["id"]
    assert api.delete(f"/api/uploads/{first}").status_code == 204
    assert announce(api._client, 1000).status_code == 201


@pytest.mark.django_db(transaction=True)
def test_of_many_at_once_as_many_as_fit(settings):
    settings.BATHYPHON_ACCOUNT_LIMIT = 3500
    user = User.objects.create_user("mara")
    found = []

    def send():
        client = Client()
        client.force_login(user)
        try:
            found.append(announce(client, 1000).status_code)
        finally:
            connection.close()

    threads = [Thread(target=send) for _ in range(8)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(found) == [201] * 3 + [422] * 5


def test_an_export_that_does_not_fit_is_refused_when_it_is_asked_for(api, reel, settings):
    api.edit(reel, 0, kind="add_cut", frame=3)
    settings.BATHYPHON_ACCOUNT_LIMIT = used(api.user) + 1_200_000
    # Four seconds in 24 bits are 1.15 MB.
    made = api.post(f"/api/reels/{reel.pk}/exports", {"bits": "24"})
    assert made.status_code == 201, made.content
    second = api.post(f"/api/reels/{reel.pk}/exports", {"bits": "24"})
    assert (second.status_code, "does not fit" in second.json()["detail"]) == (422, True)


def test_an_upload_that_nobody_goes_on_with_is_given_up(api):
    for size in (1000, 2000):
        announce(api._client, size)
    old = Upload.objects.get(size=1000)
    long_ago = time.time() - 8 * 24 * 3600
    os.utime(old.path, (long_ago, long_ago))
    forget_left_uploads.func(0)
    assert [u.size for u in Upload.objects.all()] == [2000]
    assert not old.path.exists()
