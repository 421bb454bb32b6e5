"""A reel as a template over HTTP: files of the account leave, computed sounds stay."""

from bathyphon.server.media.models import Media


def test_a_template_asks_for_the_files_and_keeps_computed_sounds(api, stranger, reel, media):
    body = {"model": "rain", "name": "Rain", "settings": {}, "seconds": 5}
    rain = api.post("/api/sounds/made", body).json()["media"]
    before = api.get(f"/api/reels/{reel.pk}").json()
    medium = {"id": rain["id"], "path": rain["name"]}
    api.edit(reel, before["revision"], kind="add_medium", medium=medium)
    made = api.post(f"/api/reels/{reel.pk}/template")
    assert made.status_code == 201
    document = api.get(f"/api/reels/{made.json()['id']}").json()["document"]
    assert document["name"].startswith("New reel from ")
    assert [m.get("place", False) for m in document["media"]] == [True, False]
    assert document["media"][1]["id"] == rain["id"]
    assert document["tracks"][0]["treatments"] == before["document"]["tracks"][0]["treatments"]
    assert Media.visible_to(api.user).count() == 2
    assert stranger.post(f"/api/reels/{reel.pk}/template").status_code == 404
