"""Every address of the API for everybody who may ask: nobody, somebody else, who may only look at
a reel, and the owner. What is added to the API is tried here without a line more."""

import json

import pytest
from asgiref.sync import async_to_sync
from django.db import transaction
from django.test import AsyncClient, Client
from paths import ALL, DESCRIBED, NOWHERE, VALUES, body_of, kind_of, query_of

from bathyphon.server.exports.models import Export
from bathyphon.server.media.models import Media, Upload
from bathyphon.server.presets.models import KeptPreset
from bathyphon.server.reels.models import Membership, Reel

FOR_EVERYBODY = {("POST", "/api/session"), ("POST", "/api/session/link")}
CHANGES = {
    ("DELETE", "/api/reels/{id}"),
    *(("POST", f"/api/reels/{{id}}/{what}") for what in ("edits", "undo", "redo", "back")),
}
"""What changes a reel; all else of it looks, listens, or makes something of one's own."""
SECRET = "Sump of the owner"
DOCUMENT = {
    "format": "bathyphon.preset", "version": 1, "kind": "effect", "name": SECRET, "tags": [],
    "note": "", "body": {"kind": "gain", "params": {}},
}  # fmt: skip


@pytest.fixture
def things(api, reel, media):
    """One of each thing that an address can name, all of one owner."""
    Reel.objects.filter(pk=reel.pk).update(name=SECRET)
    export = Export.objects.create(
        reel=reel, account=api.user, revision=0, state=Export.DONE, name=SECRET
    )
    upload = Upload.objects.create(account=api.user, name=SECRET, size=10)
    preset = KeptPreset.objects.create(
        account=api.user, kind="effect", name=SECRET, document=DOCUMENT
    )
    span = api.get(f"/api/reels/{reel.pk}").json()["document"]["tracks"][0]["treatments"][0]["id"]
    taken = {"reel": str(reel.pk), "name": SECRET, "treatments": [span]}
    recipe = api.post("/api/recipes/own", taken).json()["preset"]["id"]
    Media.objects.filter(pk=media.pk).update(own=True)
    lay_files()
    return {
        "reels": reel.pk, "media": media.pk, "exports": export.pk, "uploads": upload.pk,
        "presets": preset.pk, "recipes/own": recipe, "sounds/own": media.pk,
    }  # fmt: skip


def lay_files():
    """The files of exports and uploads, where the last question has taken them away."""
    for export in Export.objects.all():
        export.path.parent.mkdir(parents=True, exist_ok=True)
        export.path.write_bytes(b"RIFF")
    for upload in Upload.objects.all():
        upload.path.parent.mkdir(parents=True, exist_ok=True)
        upload.path.write_bytes(b"")


def ask(user, method, path, id, reel=NOWHERE):
    """What an address answers to the least that it takes, of a reel where it wants one."""
    address = path.replace("{id}", str(id))
    if query := query_of(method, path):
        address += f"?{query}"
    for least, known in VALUES.items():
        address = address.replace(least, known)
    data, kind = body_of(method, path)
    if method == "PATCH" and path.startswith("/api/uploads"):
        data, kind = b"x", "application/offset+octet-stream"
    body = data if isinstance(data, bytes) else json.dumps(data).encode()
    body = body.replace(NOWHERE.encode(), str(reel).encode())

    async def run():
        client = AsyncClient()
        if user is not None:
            await client.aforce_login(user)
        answer = await client.generic(
            method, address, body, kind or "application/json", headers={"Upload-Offset": "0"}
        )
        if not answer.streaming:
            return answer, answer.content
        # A stream of events never ends.
        return answer, b""

    return async_to_sync(run)()


def revision(things):
    return Reel.objects.get(pk=things["reels"]).revision


def test_there_are_as_many_as_the_description_says():
    assert len(DESCRIBED) > 70
    assert len(set(ALL)) == len(ALL)


KINDS = sorted({kind_of(path) for _, path in ALL})
of_each_kind = pytest.mark.parametrize("kind", KINDS, ids=lambda kind: kind or "nothing named")


def each(kind):
    """The addresses that name such a thing; what is done to one of them is taken back."""
    for method, path in ALL:
        if kind_of(path) == kind:
            lay_files()
            with transaction.atomic():
                yield method, path
                transaction.set_rollback(True)


@of_each_kind
def test_nobody(things, kind):
    for method, path in each(kind):
        answer, body = ask(None, method, path, things.get(kind, NOWHERE))
        told = (method, path, answer.status_code, body)
        if (method, path) in FOR_EVERYBODY:
            assert answer.status_code in (403, 422), told
        else:
            assert answer.status_code == 401, told
        assert SECRET.encode() not in body, told


@of_each_kind
def test_somebody_else(things, stranger, kind):
    for method, path in each(kind):
        answer, body = ask(stranger.user, method, path, things.get(kind, NOWHERE), things["reels"])
        told = (method, path, answer.status_code, body)
        assert answer.status_code < 500, told
        assert SECRET.encode() not in body, told
        if kind:
            assert answer.status_code == 404, told
            # What is another's is answered as what is nobody's.
            none, said = ask(stranger.user, method, path, NOWHERE, things["reels"])
            assert (none.status_code, said) == (404, body), told
        else:
            for id in things.values():
                assert str(id).encode() not in body, told
        assert revision(things) == 0, told
        assert not Reel.objects.get(pk=things["reels"]).trashed, told


def test_who_may_only_look(things, stranger):
    reel = Reel.objects.get(pk=things["reels"])
    Membership.objects.create(reel=reel, account=stranger.user, role=Membership.VIEWER)
    for method, path in each("reels"):
        answer, body = ask(stranger.user, method, path, reel.pk)
        told = (method, path, answer.status_code, body)
        if (method, path) in CHANGES:
            assert answer.status_code == 403, told
            assert json.loads(body)["detail"].endswith("."), told
        else:
            assert answer.status_code not in (401, 403), told
            assert answer.status_code < 500, told
        reel.refresh_from_db()
        assert (reel.revision, reel.trashed) == (0, None), told


def test_who_edits_changes_and_throws_nothing_away(things, stranger):
    reel = Reel.objects.get(pk=things["reels"])
    Membership.objects.create(reel=reel, account=stranger.user, role=Membership.EDITOR)
    assert stranger.edit(reel, 0, kind="add_cut", frame=3).status_code == 200
    assert stranger.turn(reel, "undo", 1).status_code == 200
    assert stranger.delete(f"/api/reels/{reel.pk}").status_code == 403


@of_each_kind
def test_the_owner(things, api, kind):
    for method, path in each(kind):
        answer, body = ask(api.user, method, path, things.get(kind, NOWHERE), things["reels"])
        found = (200, 201, 202, 204, 206, 409, 415, 422, 423)
        if (method, path) in {*FOR_EVERYBODY, ("POST", "/api/reels/{id}/restore")}:
            found = (*found, 403, 404)
        assert answer.status_code in found, (method, path, answer.status_code, body)


def test_forms_of_other_pages_change_nothing(things, api):
    """Whatever changes something wants the token that only our own pages have."""
    client = Client(enforce_csrf_checks=True)
    client.force_login(api.user)
    for method, path in ALL:
        if method in ("GET", "HEAD"):
            continue
        address = path.replace("{id}", str(things.get(kind_of(path), NOWHERE)))
        answer = client.generic(method, address.replace("{recipe}", "x"), b"{}", "application/json")
        assert answer.status_code == 403, (method, path, answer.content)
    assert revision(things) == 0
