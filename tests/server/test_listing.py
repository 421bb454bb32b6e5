"""The list of reels: what it shows, the trash, and copies."""

from __future__ import annotations

import pytest

from bathyphon.server.reels.models import Snapshot

pytestmark = pytest.mark.django_db


def test_a_line_tells_the_length_and_who_changed_it(api, reel) -> None:
    (line,) = api.get("/api/reels").json()
    assert line["seconds"] > 0
    assert line["changed_by"] == ""
    api.edit(reel, 0, kind="rename_reel", name="Ninth")
    (line,) = api.get("/api/reels").json()
    assert (line["name"], line["changed_by"]) == ("Ninth", "mara")
    before = line["seconds"]
    clip = api.get(f"/api/reels/{reel.pk}").json()["document"]["tracks"][0]["clips"][0]
    api.edit(reel, 1, kind="move_clips", ids=[clip["id"]], frames=25)
    (line,) = api.get("/api/reels").json()
    assert line["seconds"] == pytest.approx(before + 1, abs=0.05)


def test_a_reel_that_is_older_than_the_list_is_read_once(api, reel) -> None:
    known = api.get("/api/reels").json()[0]["seconds"]
    type(reel).objects.update(seconds=None)
    assert api.get("/api/reels").json()[0]["seconds"] == known
    assert type(reel).objects.get().seconds == known


def test_what_was_thrown_away_can_be_brought_back_by_its_owner_only(api, stranger, reel) -> None:
    path = f"/api/reels/{reel.pk}"
    assert api.delete(path).status_code == 204
    assert api.get("/api/reels").json() == []
    assert [line["id"] for line in api.get("/api/reels/trash").json()] == [str(reel.pk)]
    assert stranger.get("/api/reels/trash").json() == []
    assert stranger.post(f"{path}/restore").status_code == 404
    assert api.post(f"{path}/restore").status_code == 204
    assert api.post(f"{path}/restore").status_code == 404
    assert len(api.get("/api/reels").json()) == 1
    assert api.get("/api/reels/trash").json() == []


def test_a_copy_begins_as_the_reel_is_now_and_goes_its_own_way(api, stranger, reel) -> None:
    api.edit(reel, 0, kind="add_cut", frame=7)
    path = f"/api/reels/{reel.pk}"
    assert stranger.post(f"{path}/copy").status_code == 404
    made = api.post(f"{path}/copy")
    assert made.status_code == 201
    copied = api.get(f"/api/reels/{made.json()['id']}").json()
    assert copied["revision"] == 0
    assert copied["undo"] is None
    own = api.get(path).json()["document"]
    assert copied["document"] == {**own, "name": f"{own['name']} copy"}
    api.edit(reel, 1, kind="add_cut", frame=9)
    assert api.get(f"/api/reels/{made.json()['id']}").json()["document"] == copied["document"]


def test_a_reel_that_this_version_cannot_read_does_not_take_the_others_from_the_list(
    api, reel
) -> None:
    other = api.post("/api/reels", {"name": "From tomorrow"}).json()["id"]
    strange = Snapshot.objects.get(reel_id=other)
    strange.packed = Snapshot.pack({**strange.document(), "version": 2})
    strange.save()
    type(reel).objects.update(seconds=None)
    lines = {line["id"]: line["seconds"] for line in api.get("/api/reels").json()}
    assert lines[other] == 0
    assert lines[str(reel.pk)] > 0
