"""Recipes over HTTP: worked out for a place, made in one step, opened again."""

import numpy as np
import pytest
from conftest import bring_in, wav
from scipy.signal import fftconvolve

from bathyphon.core.recipes import RECIPES
from bathyphon.core.recipes.find import find_recipes
from bathyphon.server.media.models import Media
from bathyphon.server.reels.journal import create_reel
from soundtracks import speech

WORDS = {
    "ring out": "ring_out", "tail": "ring_out", "underwater": "below_surface", "echo": "answer",
    "phone": "voice_from", "radio": "voice_from", "fit gap": "fit_line", "slow song": "slowed",
    "monster": "other_voice", "robot": "other_voice", "choir": "thick_voice",
    "flashback": "memory", "freeze": "freeze", "distance": "near_far", "pan cuts": "sides",
    "orbit": "around", "swell hit": "swell", "credits": "end_with_picture",
}  # fmt: skip


@pytest.mark.parametrize("words", WORDS)
def test_an_editors_word_finds_the_recipe_first_or_second(words):
    assert WORDS[words] in [r.id for r in find_recipes(words)[:2]]


def test_they_are_listed_with_their_questions(api):
    lines = api.get("/api/recipes").json()
    assert [line["id"] for line in lines] == list(RECIPES)
    assert all(1 <= len(line["questions"]) <= 3 for line in lines)
    assert api.get("/api/recipes/found?text=phone").json()[0] == "voice_from"


@pytest.fixture
def clip(api, reel):
    document = api.get(f"/api/reels/{reel.pk}").json()["document"]
    return document["tracks"][0]["clips"][0]


def ask(api, reel, recipe, clip, again=None, **answers):
    body = {"answers": answers, "place": {"at": clip["start"], "clip": clip["id"]}}
    if again:
        body["again"] = again
    return api.post(f"/api/reels/{reel.pk}/recipes/{recipe}", body)


def now(api, reel):
    return api.get(f"/api/reels/{reel.pk}").json()


def test_asking_changes_nothing_and_the_edits_are_one_step(api, reel, clip):
    before = now(api, reel)
    found = ask(api, reel, "voice_from", clip, place="radio").json()
    assert now(api, reel)["document"] == before["document"]
    assert found["end"] > found["start"]
    answer = api.edits(reel, before["revision"], found["commands"])
    assert answer.status_code == 200, answer.content
    after = now(api, reel)
    assert after["revision"] == before["revision"] + 1
    (last, *_) = api.get(f"/api/reels/{reel.pk}/history").json()
    assert last["title"] == "recipe: A voice from …"
    (made,) = api.get(f"/api/reels/{reel.pk}/made").json()
    assert made["recipe"] == "voice_from"
    assert made["answers"]["place"] == "radio"
    assert made["touched"] == []
    api.turn(reel, "undo", after["revision"])
    assert now(api, reel)["document"] == before["document"]


def test_answers_are_changed_while_nothing_was_touched(api, reel, clip):
    first = ask(api, reel, "voice_from", clip, place="radio").json()
    api.edits(reel, now(api, reel)["revision"], first["commands"])
    (made,) = api.get(f"/api/reels/{reel.pk}/made").json()
    second = ask(api, reel, "voice_from", clip, again=made["id"], place="phone").json()
    api.edits(reel, now(api, reel)["revision"], second["commands"])
    document = now(api, reel)["document"]
    (effect,) = document["tracks"][0]["clips"][0]["treatment"]["effects"]
    assert effect["params"]["high_hz"] == 3400
    assert len(document["made"]) == 1
    # Once it has been touched, it says so.
    owner = f"clip:{clip['id']}"
    change = {"kind": "set_effect", "owner": owner, "id": effect["id"], "params": {"low_hz": 500}}
    api.edits(reel, now(api, reel)["revision"], [change])
    (made,) = api.get(f"/api/reels/{reel.pk}/made").json()
    assert made["touched"] == ["an effect"]
    refused = ask(api, reel, "voice_from", clip, again=made["id"], place="car")
    assert refused.status_code == 422
    assert "an effect of it was changed by hand" in refused.json()["detail"]


def test_its_sounds_become_media_of_the_account(api, reel, clip):
    body = {"answers": {}, "place": {"at": 0, "start": 0, "end": 48000}}
    found = api.post(f"/api/reels/{reel.pk}/recipes/below_surface", body).json()
    (medium,) = found["media"]
    assert Media.objects.get(pk=medium).name == "Under water.sound"
    answer = api.edits(reel, now(api, reel)["revision"], found["commands"])
    assert answer.status_code == 200, answer.content
    tracks = now(api, reel)["document"]["tracks"]
    assert tracks[-1]["name"] == "Beds"
    assert tracks[-1]["clips"][0]["media"] == medium


@pytest.mark.parametrize(
    ("recipe", "body", "says"),
    [
        ("souffle", {"place": {}}, "no such recipe"),
        ("answer", {"place": {"at": 2**40}}, "select the clip"),
        ("answer", {"place": {"at": 0}, "answers": {"metres": 9000}}, "Wall must lie between"),
        ("answer", {"place": {"at": 0}, "answers": {"sauce": 1}}, "does not ask"),
        ("answer", {"place": {"at": 0}, "again": "nothing"}, "no such recipe in this reel"),
        ("around", {"place": {"at": 0}}, "no markers"),
    ],
)
def test_what_cannot_be_cooked_says_why(api, reel, recipe, body, says):
    answer = api.post(f"/api/reels/{reel.pk}/recipes/{recipe}", body)
    assert answer.status_code == 422
    assert says in answer.json()["detail"]


def test_a_reel_that_somebody_has_written_lists_what_it_says_of_its_recipes(api, reel):
    document = now(api, reel)["document"]
    made = {"id": "old", "recipe": "souffle", "answers": {}, "place": {}, "parts": ["clip:c1"]}
    other = create_reel(api.user, {**document, "made": [made]})
    answer = api.get(f"/api/reels/{other.pk}/made")
    assert answer.status_code == 200
    assert [(line["label"], line["recipe"]) for line in answer.json()] == [("souffle", None)]


def test_another_account_sees_none_of_it(api, stranger, reel, clip):
    assert ask(stranger, reel, "answer", clip).status_code == 404
    assert stranger.get(f"/api/reels/{reel.pk}/made").status_code == 404


def test_a_line_is_brought_to_the_place_of_another(api, reel, clip, tmp_path):
    rng = np.random.default_rng(2)
    dry = speech(rng, 12.0)
    room = 0.02 * rng.standard_normal(36_000) * 10 ** (-3 * np.arange(36_000) / 36_000)
    room[0] = 1.0
    far = fftconvolve(speech(rng, 12.0), room)[: dry.size]
    commands = []
    for id, x in (("near", dry), ("far", far)):
        name = f"{id}.wav"
        medium = bring_in(api.user, name, wav(np.stack([x, x]), tmp_path, name=name))
        commands += [
            {"kind": "add_medium", "medium": {"id": str(medium.pk), "path": name}},
            {"kind": "add_track", "track": {"id": f"t-{id}", "name": id}},
            {"kind": "add_clip", "track": f"t-{id}",
             "clip": {"id": id, "media": str(medium.pk), "start": 0, "length": dry.size}},
        ]  # fmt: skip
    assert api.edits(reel, now(api, reel)["revision"], commands).status_code == 200
    body = {"answers": {}, "place": {"at": 0, "clip": "near", "other": "far"}}
    found = api.post(f"/api/reels/{reel.pk}/recipes/same_place", body)
    assert found.status_code == 200, found.content
    added = [c["effect"] for c in found.json()["commands"] if c["kind"] == "add_effect"]
    assert added[0]["kind"] == "reverb"
    assert added[0]["params"]["decay_s"] == pytest.approx(0.75, rel=0.25)
    # Noise has no pauses, and a clip alone has nothing to be like.
    for other, says in ((clip["id"], "cannot be told"), (None, "select two clips")):
        body["place"]["other"] = other
        answer = api.post(f"/api/reels/{reel.pk}/recipes/same_place", body)
        assert answer.status_code == 422
        assert says in answer.json()["detail"]
