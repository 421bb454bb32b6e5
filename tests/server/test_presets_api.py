"""Presets of an account: kept, found, used in another reel, handed on."""

import pytest

from bathyphon.server.presets.models import KeptPreset

PATH = "/api/presets"


def keep(api, reel, name="Under water, soft", kind="treatment"):
    document = api.get(f"/api/reels/{reel.pk}").json()["document"]
    span = document["tracks"][0]["treatments"][0]["id"]
    body = {"reel": str(reel.pk), "kind": kind, "owner": f"treatment:{span}", "name": name}
    return api.post(PATH, body)


def test_a_treatment_is_kept_and_used_on_another_place(api, reel):
    line = keep(api, reel).json()
    assert line["effects"] == ["Muffle"]
    track = api.get(f"/api/reels/{reel.pk}").json()["document"]["tracks"][0]["id"]
    target = {"reel": str(reel.pk), "tracks": [track], "start": 0, "end": 24000}
    used = api.post(f"{PATH}/{line['id']}/use", target).json()
    revision = api.get(f"/api/reels/{reel.pk}").json()["revision"]
    answer = api.edits(reel, revision, used["commands"])
    assert answer.status_code == 200, answer.content
    spans = api.get(f"/api/reels/{reel.pk}").json()["document"]["tracks"][0]["treatments"]
    assert spans[-1]["name"] == "Under water, soft"
    assert api.get(PATH).json()[0]["used"]


def test_they_are_found_by_name_tag_and_effect_favourites_first(api, reel):
    first = keep(api, reel, "Alpha").json()["id"]
    second = keep(api, reel, "Beta").json()["id"]
    api.patch(f"{PATH}/{second}", {"favourite": True, "tags": ["sump", "cave"], "note": "dark"})
    assert [p["id"] for p in api.get(PATH).json()] == [second, first]
    for words in ("beta", "cave", "sump", "dark"):
        assert [p["id"] for p in api.get(f"{PATH}?text={words}").json()] == [second]
    assert len(api.get(f"{PATH}?text=muffle").json()) == 2
    assert api.get(f"{PATH}?text=xylograph").json() == []
    assert api.get(f"{PATH}?kind=bed").json() == []


def test_one_is_changed_in_place_and_removed(api, reel):
    line = keep(api, reel).json()
    document = api.get(f"/api/reels/{reel.pk}").json()
    span = document["document"]["tracks"][0]["treatments"][0]
    change = {"kind": "set_effect", "owner": f"treatment:{span['id']}",
              "id": span["effects"][0]["id"], "params": {"high_cut_hz": 333}}  # fmt: skip
    api.edits(reel, document["revision"], [change])
    body = {"reel": str(reel.pk), "owner": f"treatment:{span['id']}"}
    changed = api.post(f"{PATH}/{line['id']}/replace", body).json()
    assert changed["name"] == line["name"]
    assert changed["body"]["effects"][0]["params"]["high_cut_hz"] == 333
    assert api.delete(f"{PATH}/{line['id']}").status_code == 204
    assert api.get(PATH).json() == []


def test_a_file_goes_to_another_account_with_keys_nobody_knows(api, stranger, reel):
    keep(api, reel, "One")
    keep(api, reel, "Two")
    file = api.post(f"{PATH}/file", {}).json()
    file["presets"][0]["colour"] = "green"
    file["presets"][1]["body"]["effects"].append({"kind": "warp", "params": {}})
    came = stranger.post(f"{PATH}/brought-in", file)
    assert came.status_code == 201
    assert [p["name"] for p in came.json()["presets"]] == ["One", "Two"]
    assert came.json()["notes"] == ["Two: The effect “warp” is not known here and was left out."]
    again = stranger.post(f"{PATH}/file", {}).json()
    assert again["presets"] == file["presets"]


@pytest.mark.parametrize(
    ("body", "says"),
    [
        ({"format": "x"}, "no file of presets"),
        ({"format": "bathyphon-preset", "version": 9}, "newer version"),
        (
            {"format": "bathyphon-preset", "version": 1, "presets": [{"kind": "chain"}]},
            "cannot be read",
        ),
    ],
)
def test_a_file_that_is_none_is_refused_whole(api, body, says):
    answer = api.post(f"{PATH}/brought-in", body)
    assert answer.status_code == 422
    assert says in answer.json()["detail"]
    assert KeptPreset.objects.count() == 0


def test_a_computed_sound_is_kept_as_it_was_laid(api, media):
    bed = api.post("/api/sounds/made", {"model": "rain", "name": "Rain", "seed": 3}).json()
    line = api.post(f"{PATH}/bed", {"media": bed["media"]["id"], "gain_db": -4}).json()
    assert (line["kind"], line["body"]["seed"], line["body"]["gain_db"]) == ("bed", 3, -4)
    assert api.post(f"{PATH}/bed", {"media": str(media.pk)}).status_code == 422


def test_another_account_neither_sees_nor_changes_them(api, stranger, reel):
    line = keep(api, reel).json()
    assert stranger.get(PATH).json() == []
    one = f"{PATH}/{line['id']}"
    target = {"reel": str(reel.pk), "tracks": [], "start": 0, "end": 1}
    assert stranger.patch(one, {"name": "Mine"}).status_code == 404
    assert stranger.delete(one).status_code == 404
    assert stranger.post(f"{one}/use", target).status_code == 404
    taken = {"reel": str(reel.pk), "kind": "chain", "owner": "mix", "name": "Theirs"}
    assert stranger.post(PATH, taken).status_code == 404


def test_a_sound_is_kept_as_it_is_set_and_as_it_was_laid(api):
    settings = {"intensity": 80.0}
    body = {"model": "rain", "settings": settings, "seed": 7, "gain_db": -4, "name": "Downpour"}
    line = api.post(f"{PATH}/bed", body).json()
    assert line["kind"] == "bed"
    assert line["sound"]["model"] == "rain"
    assert line["sound"]["settings"]["intensity"] == 80
    # Everything that can be set has a value.
    models = api.get("/api/sounds").json()["models"]
    (rain,) = (m for m in models if m["id"] == "rain")
    assert set(line["sound"]["settings"]) == {p["id"] for p in rain["parameters"]}
    assert (line["sound"]["seed"], line["sound"]["gain_db"]) == (7, -4)
    wanted = {"model": "rain", "name": "Roof", "settings": settings, "seed": 3, "seconds": 5}
    media = api.post("/api/sounds/made", wanted).json()["media"]["id"]
    laid = api.post(f"{PATH}/bed", {"media": media, "gain_db": -9}).json()
    assert laid["name"] == "Roof"
    assert (laid["sound"]["seed"], laid["sound"]["gain_db"]) == (3, -9)
    assert api.post(f"{PATH}/bed", {"model": "horse"}).status_code == 422
    assert api.post(f"{PATH}/bed", {}).status_code == 422
