"""Own recipes and shared presets over HTTP: whose they are, what is asked, who may use them."""

import pytest
from django.contrib.auth.models import User

from bathyphon.server.reels.models import Membership

PATH = "/api/recipes/own"


@pytest.fixture
def span(api, reel):
    return api.get(f"/api/reels/{reel.pk}").json()["document"]["tracks"][0]["treatments"][0]["id"]


@pytest.fixture
def mine(api, reel, span):
    body = {"reel": str(reel.pk), "name": "Sump", "treatments": [span]}
    return api.post(PATH, body).json()


@pytest.fixture
def colleague(stranger, reel):
    """Somebody else who may see the reel."""
    Membership.objects.create(reel=reel, account=stranger.user)
    return stranger


def use(api, reel, recipe, **answers):
    track = api.get(f"/api/reels/{reel.pk}").json()["document"]["tracks"][0]["id"]
    body = {"answers": answers, "place": {"start": 0, "end": 48000, "track": track}}
    return api.post(f"/api/reels/{reel.pk}/recipes/{recipe}", body)


def values(api, own):
    return api.get(f"{PATH}/{own['preset']['id']}/values").json()


def share(api, preset, reel, shared=True):
    return api.post(f"/api/presets/{preset}/share", {"reel": str(reel.pk), "shared": shared})


def test_it_is_taken_asked_used_and_opened_again(api, reel, mine):
    assert mine["recipe"]["help"] == "Adds Muffle."
    cut = next(v for v in values(api, mine) if v["path"].endswith("/high_cut_hz"))
    questions = [{"label": "How dull", "asks": [cut["path"]]}]
    id = mine["preset"]["id"]
    asked = api.put(f"{PATH}/{id}/questions", {"questions": questions}).json()
    (question,) = asked["recipe"]["questions"]
    assert question["label"] == "How dull"
    answer = {question["id"]: 777.0}
    plan = use(api, reel, asked["recipe"]["id"], **answer).json()
    revision = api.get(f"/api/reels/{reel.pk}").json()["revision"]
    done = api.edits(reel, revision, plan["commands"])
    assert done.status_code == 200, done.content
    document = api.get(f"/api/reels/{reel.pk}").json()["document"]
    made = document["tracks"][0]["treatments"][-1]["effects"][0]["params"]
    assert made["high_cut_hz"] == 777.0
    (line,) = api.get(f"/api/reels/{reel.pk}/made").json()
    assert (line["label"], line["answers"], line["touched"]) == ("Sump", answer, [])
    # It asks for something else, or is gone: what it made is still there, under its name.
    api.put(f"{PATH}/{id}/questions", {"questions": []})
    assert api.get(f"/api/reels/{reel.pk}/made").json()[0]["answers"] == {}
    assert api.get(PATH).json()[0]["preset"]["used"]
    api.delete(f"/api/presets/{id}")
    (line,) = api.get(f"/api/reels/{reel.pk}/made").json()
    assert (line["label"], line["recipe"]) == ("Sump", None)
    assert use(api, reel, asked["recipe"]["id"]).status_code == 422


def test_recipes_are_listed_by_themselves_and_found_by_words(api, reel, mine):
    assert api.get("/api/presets").json() == []
    assert [r["preset"]["name"] for r in api.get(f"{PATH}?text=sump").json()] == ["Sump"]
    assert api.get(f"{PATH}?text=xylograph").json() == []
    file = api.post("/api/presets/file", {"ids": []}).json()
    assert [p["kind"] for p in file["presets"]] == ["recipe"]
    again = api.post("/api/presets/brought-in", file).json()
    assert len(again["presets"]) == 1
    assert len(api.get(PATH).json()) == 2


@pytest.mark.parametrize(("questions", "says"), [
    ([{"label": "X", "asks": ["9/strength"]}], "has no fixed value"),
    ([{"label": "X", "asks": ["0/strength", "0/strength"]}], "asked for only once"),
    ([{"label": "", "asks": ["0/strength"]}], ""),
    ([{"label": "X", "asks": []}], ""),
])  # fmt: skip
def test_what_cannot_be_asked_is_said(api, mine, questions, says):
    answer = api.put(f"{PATH}/{mine['preset']['id']}/questions", {"questions": questions})
    assert answer.status_code == 422
    assert says in answer.json()["detail"]


def test_nobody_else_sees_uses_or_changes_it_until_it_is_shared(api, reel, mine, colleague):
    id, recipe = mine["preset"]["id"], mine["recipe"]["id"]
    assert colleague.get(PATH).json() == []
    assert use(colleague, reel, recipe).status_code == 422
    assert colleague.delete(f"/api/presets/{id}").status_code == 404
    assert colleague.post(f"/api/presets/{id}/copy").status_code == 404
    assert share(api, id, reel).json()["shared"] == [str(reel.pk)]
    (seen,) = colleague.get(PATH).json()
    assert (seen["preset"]["by"], seen["preset"]["shared"]) == ("mara", [])
    assert use(colleague, reel, recipe).status_code == 200
    # Only to be used: whose it is keeps it, with its favourites.
    for answer in (
        colleague.patch(f"/api/presets/{id}", {"name": "Theirs"}),
        colleague.delete(f"/api/presets/{id}"),
        colleague.get(f"{PATH}/{id}/values"),
        share(colleague, id, reel, False),
        colleague.put(f"{PATH}/{id}/questions", {"questions": []}),
    ):
        assert answer.status_code == 422
        assert answer.json()["detail"] == "this is mara's; keep a copy to change it"
    api.patch(f"/api/presets/{id}", {"favourite": True})
    assert not colleague.get(PATH).json()[0]["preset"]["favourite"]
    copy = colleague.post(f"/api/presets/{id}/copy").json()
    assert copy["by"] == ""
    assert colleague.patch(f"/api/presets/{copy['id']}", {"name": "Theirs"}).status_code == 200
    share(api, id, reel, False)
    assert [r["preset"]["name"] for r in colleague.get(PATH).json()] == ["Theirs"]


def test_who_leaves_a_reel_or_whose_reel_is_in_the_trash_no_longer_has_what_is_shared(
    api, reel, mine, colleague
):
    share(api, mine["preset"]["id"], reel)
    assert colleague.get(PATH).json()
    Membership.objects.filter(account=colleague.user).delete()
    assert colleague.get(PATH).json() == []
    third = User.objects.create_user("third", password="a third pass phrase")
    Membership.objects.create(reel=reel, account=third)
    assert api.delete(f"/api/reels/{reel.pk}").status_code in (200, 204)
    assert colleague.get(PATH).json() == []
    assert api.get(PATH).json()


def test_it_is_shared_only_with_reels_that_one_sees(api, stranger, reel, mine):
    from bathyphon.server.reels.journal import create_reel
    from reels import document

    other = create_reel(stranger.user, document(48000))
    assert share(api, mine["preset"]["id"], other).status_code == 404


def test_poses_are_kept_and_used_over_http(api, reel, span):
    revision = api.get(f"/api/reels/{reel.pk}").json()["revision"]
    pose = {"id": "p", "name": "Left", "values": {f"treatment:{span}/strength": 30.0}}
    api.edits(reel, revision, [{"kind": "add_pose", "pose": pose}])
    body = {"reel": str(reel.pk), "kind": "poses", "owner": f"treatment:{span}", "name": "Sides"}
    line = api.post("/api/presets", body).json()
    assert line["effects"] == ["Left"]
    target = {"reel": str(reel.pk), "owner": f"treatment:{span}"}
    used = api.post(f"/api/presets/{line['id']}/use", target).json()
    assert [c["kind"] for c in used["commands"]] == ["add_pose"]
