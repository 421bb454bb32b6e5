"""What nobody should send: refused in a sentence, never answered with a fault of our own."""

import base64

import pytest
from conftest import RATE
from django.test import Client

NUL = "a\0b"


def said(answer):
    """The sentence of a refusal."""
    assert 400 <= answer.status_code < 500, (answer.status_code, answer.content)
    return answer.json()["detail"]


@pytest.mark.parametrize("medium", [[1], "x", None, {"id": 3}, {"id": "m", "path": NUL}])
def test_a_medium_of_the_wrong_shape(api, reel, medium):
    assert said(api.edit(reel, 0, kind="add_medium", medium=medium))


@pytest.mark.parametrize("kind", [None, 7, "", "no_such", ["set_track"], {}])
def test_a_command_of_no_kind(api, reel, kind):
    assert said(api.edits(reel, 0, [{"kind": kind}]))
    assert said(api.edits(reel, 0, [kind]))


def test_a_name_with_a_nul_signs_nobody_in(db):
    answer = Client().post(
        "/api/session", {"name": NUL, "password": "x"}, content_type="application/json"
    )
    assert "NUL" in said(answer)


def test_preferences_names_and_files_hold_no_nul(api, reel):
    keys = {"keys": {"play": [NUL]}}
    answer = api._client.put("/api/account/preferences", keys, content_type="application/json")
    assert "NUL" in said(answer)
    assert "NUL" in said(api.post("/api/reels", {"name": NUL}))
    assert "NUL" in said(api.edit(reel, 0, kind="set_track", id="t1", name=NUL))
    assert api.get("/api/reels/%00").status_code in (404, 422)
    for path in ("/api/sounds/own?text=%00", "/api/effects/found?text=a%00b", "/?to=%00"):
        assert "NUL" in said(api.get(path))


def test_levels_of_a_track_that_is_not_there(api, reel):
    wanted = {"track": "gone", "start": 0, "stop": RATE, "sides": [{"treated": True}]}
    assert "no track “gone”" in said(api.post(f"/api/reels/{reel.pk}/levels", wanted))


@pytest.mark.parametrize("generation", ["²", "٣", "-1", "1e9", "9" * 5000, ""])
def test_a_generation_that_is_no_number(api, reel, generation):
    answer = api.get(f"/api/reels/{reel.pk}/sound/treated/0?generation={generation}")
    assert answer.status_code == 200


@pytest.mark.parametrize("part", ["²", "٣", "-1", "7", "9" * 5000])
def test_a_part_that_is_none(api, reel, part):
    answer = api.get(f"/api/reels/{reel.pk}/sound/treated/0?part={part}")
    assert "expected a part" in said(answer)


@pytest.mark.parametrize("parts", ["²", "-1", "0", "4", "9" * 5000, ""])
def test_so_many_parts_as_there_are_not(api, reel, parts):
    answer = api.get(f"/api/reels/{reel.pk}/sound/treated/0?part=2&parts={parts}")
    assert "expected 1 to 3 parts" in said(answer)


@pytest.mark.parametrize("body", [1, None, "x", {}, [1], [None], [[]], ["x"], [{"kind": 1}]])
def test_a_sound_of_nothing(api, reel, body):
    assert said(api.post(f"/api/reels/{reel.pk}/sound/treated/0", body))
    if body != {}:
        # To compare with the reel itself is no fault.
        assert said(api.post(f"/api/reels/{reel.pk}/sound/other/0", body))


@pytest.mark.parametrize("length", ["²", "٣", "", "-5", "9" * 5000, "1.5"])
def test_an_upload_of_no_length(api, length):
    answer = api._client.post("/api/uploads", headers={"Upload-Length": length})
    assert "length in bytes" in said(answer)


@pytest.mark.parametrize("rate", ["²", "0", "many", "9" * 400])
def test_an_upload_at_no_rate(api, rate):
    told = f"rate {base64.b64encode(rate.encode()).decode()}"
    headers = {"Upload-Length": "5", "Upload-Metadata": told}
    assert "rate" in said(api._client.post("/api/uploads", headers=headers))


@pytest.mark.parametrize(
    "asked", ["bytes=" + "9" * 5000 + "-", "bytes=²-", "bytes=-" + "9" * 5000, "bytes=5-2", "x=1-2"]
)
def test_a_range_that_is_none(api, media, asked):
    answer, _ = api.fetch(f"/api/media/{media.pk}/peaks-256.i16", Range=asked)
    assert answer.status_code == 416


@pytest.mark.parametrize("path", ["levels", "level", "edits", "exports", "pitch", "wave"])
@pytest.mark.parametrize("body", [None, [], "x", {"sides": 3}, {"of": {}}, {"commands": RATE}])
def test_bodies_of_other_shapes(api, reel, path, body):
    answer = api.post(f"/api/reels/{reel.pk}/{path}", body)
    # An export needs nothing said.
    assert answer.status_code < 500
    if path != "exports":
        assert said(answer)
