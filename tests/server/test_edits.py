"""The edit endpoint: revisions, retries, conflicts, undo and redo."""

import random
import uuid

import pytest

from bathyphon.core.edits.patch import apply_patch
from bathyphon.server.reels.head import _heads, head_of, head_since, load
from bathyphon.server.reels.models import Snapshot


def state(api, reel):
    return api.get(f"/api/reels/{reel.pk}").json()


def test_an_edit_makes_a_revision_and_its_patch_leads_there(api, reel):
    before = state(api, reel)
    answer = api.edit(reel, 0, kind="set_track", id="t1", gain_db=-3.5)
    assert answer.status_code == 200
    change = answer.json()
    after = state(api, reel)
    assert change["revision"] == after["revision"] == 1
    assert apply_patch(before["document"], change["patch"])[0] == after["document"]
    assert after["document"]["tracks"][0]["gain_db"] == -3.5
    assert after["undo"]["title"] == "set the level of Music"


def test_a_repeated_edit_applies_once(api, reel):
    data = {
        "edit_id": str(uuid.uuid4()),
        "base": 0,
        "commands": [{"kind": "add_cut", "frame": 30}],
    }
    first = api.post(f"/api/reels/{reel.pk}/edits", data)
    again = api.post(f"/api/reels/{reel.pk}/edits", data)
    assert first.json()["revision"] == again.json()["revision"] == 1
    assert state(api, reel)["document"]["picture"]["cuts"] == [30]


def test_two_windows_that_change_different_things_both_succeed(api, reel):
    assert api.edit(reel, 0, kind="set_track", id="t1", gain_db=-3.0).status_code == 200
    assert api.edit(reel, 0, kind="set_track", id="t1", pan=20.0).status_code == 200
    track = state(api, reel)["document"]["tracks"][0]
    assert (track["gain_db"], track["pan"]) == (-3.0, 20.0)


def test_a_window_that_would_overwrite_another_s_change_is_told(api, reel):
    assert api.edit(reel, 0, kind="set_track", id="t1", gain_db=-3.0).status_code == 200
    late = api.edit(reel, 0, kind="set_track", id="t1", gain_db=-9.0)
    assert late.status_code == 409
    assert "Another window" in late.json()["detail"]
    assert state(api, reel)["document"]["tracks"][0]["gain_db"] == -3.0
    assert api.edit(reel, 1, kind="set_track", id="t1", gain_db=-9.0).status_code == 200


def test_undo_and_redo_append_revisions_and_name_what_they_expect(api, reel):
    start = state(api, reel)["document"]
    api.edit(reel, 0, kind="add_cut", frame=10)
    api.edit(reel, 1, kind="add_cut", frame=20)
    two = state(api, reel)["document"]
    assert api.turn(reel, "undo", 1).status_code == 409
    assert api.turn(reel, "undo", 2).json()["revision"] == 3
    now = state(api, reel)
    assert now["document"]["picture"]["cuts"] == [10]
    assert (now["undo"]["revision"], now["redo"]["revision"]) == (1, 3)
    api.turn(reel, "undo", 1)
    now = state(api, reel)
    assert now["document"] == start
    assert now["undo"] is None
    for _ in range(2):
        api.turn(reel, "redo", state(api, reel)["redo"]["revision"])
    now = state(api, reel)
    assert now["document"] == two
    assert now["redo"] is None
    # Undo reaches the redone edits again, in their order.
    api.turn(reel, "undo", now["undo"]["revision"])
    api.turn(reel, "undo", state(api, reel)["undo"]["revision"])
    assert state(api, reel)["document"] == start


def test_a_new_edit_ends_redo(api, reel):
    api.edit(reel, 0, kind="add_cut", frame=10)
    api.turn(reel, "undo", 1)
    api.edit(reel, 2, kind="add_cut", frame=30)
    assert state(api, reel)["redo"] is None
    assert api.turn(reel, "redo", 2).status_code == 409


@pytest.mark.parametrize("seed", range(3))
def test_each_answer_tells_what_undo_and_redo_would_act_upon_then(api, reel, seed):
    """Whatever comes: edits, the same once more, what changes nothing, undo, redo, back to one."""
    chance = random.Random(seed)
    sent = []
    revision = 0

    def edit(data):
        return api.post(f"/api/reels/{reel.pk}/edits", data)

    for step in range(24):
        now = state(api, reel)
        what = chance.choice(["new", "new", "again", "nothing", "undo", "redo", "back"])
        if what == "again" and sent:
            answer = edit(chance.choice(sent))
        elif what == "nothing":
            here = now["document"]["tracks"][0].get("gain_db", 0.0)
            answer = api.edit(reel, revision, kind="set_track", id="t1", gain_db=here)
        elif what in ("undo", "redo") and now[what]:
            answer = api.turn(reel, what, now[what]["revision"])
        elif what == "back" and now["undo"]:
            to = chance.randrange(now["undo"]["revision"])
            data = {"edit_id": str(uuid.uuid4()), "expect": now["undo"]["revision"], "revision": to}
            answer = api.post(f"/api/reels/{reel.pk}/back", data)
        else:
            command = {"kind": "set_track", "id": "t1", "gain_db": -1.0 - step}
            data = {"edit_id": str(uuid.uuid4()), "base": revision, "commands": [command]}
            sent.append(data)
            answer = edit(data)
        assert answer.status_code == 200, (what, answer.content)
        told, then = answer.json(), state(api, reel)
        assert (told["undo"], told["redo"]) == (then["undo"], then["redo"]), what
        assert told["derived"] == then["derived"], what
        revision = then["revision"]


def test_an_edit_asks_the_database_for_each_thing_once(api, reel, django_assert_max_num_queries):
    """A hand waits for what else this process does meanwhile."""
    api.edit(reel, 0, kind="add_cut", frame=10)
    with django_assert_max_num_queries(15):
        api.edit(reel, 1, kind="add_cut", frame=20)


def test_an_answer_that_another_edit_has_overtaken_does_not_load_the_reel_anew(
    api, reel, monkeypatch
):
    for base in range(2):
        api.edit(reel, base, kind="add_cut", frame=10 + base)
    newest = head_of(reel.pk, 2)

    def never(*_):
        raise AssertionError("it is at hand")

    monkeypatch.setattr("bathyphon.server.reels.head.load", never)
    assert head_since(reel.pk, 1) is head_since(reel.pk, 2) is newest
    with pytest.raises(AssertionError, match="at hand"):
        head_since(reel.pk, 3)


def test_the_document_is_rebuilt_from_snapshots_and_patches(api, reel, monkeypatch):
    monkeypatch.setattr("bathyphon.server.reels.journal.SNAPSHOT_EVERY", 10)
    revision = 0
    for i in range(1, 14):
        revision = api.edit(reel, revision, kind="add_cut", frame=i).json()["revision"]
    assert Snapshot.objects.filter(reel=reel).count() == 2
    held = state(api, reel)["document"]
    _heads.clear()
    assert state(api, reel)["document"] == held
    assert load(reel.pk, 6)["picture"]["cuts"] == list(range(1, 7))
    assert load(reel.pk, 12)["picture"]["cuts"] == list(range(1, 13))


@pytest.mark.parametrize(
    ("command", "where"),
    [
        ({"kind": "set_track", "id": "t1", "gain_db": 90}, "tracks.0.gain_db"),
        ({"kind": "remove_clips", "ids": ["zz"]}, "clip"),
        ({"kind": "nonsense"}, ""),
        ({"kind": "add_medium", "medium": {"id": "m9", "path": "x"}}, "medium.id"),
    ],
)
def test_a_bad_edit_is_refused_with_a_sentence(api, reel, command, where):
    answer = api.edit(reel, 0, **command)
    assert answer.status_code == 422
    assert answer.json()["where"] == where
    assert state(api, reel)["revision"] == 0


def test_the_history_tells_what_was_done_by_whom(api, reel):
    api.edit(reel, 0, kind="add_cut", frame=10)
    api.turn(reel, "undo", 1)
    lines = api.get(f"/api/reels/{reel.pk}/history").json()
    assert [(x["kind"], x["title"], x["account"]) for x in lines] == [
        ("undo", "add a cut", "mara"),
        ("edit", "add a cut", "mara"),
    ]


def test_back_to_an_edit_is_one_step_and_so_is_its_redo(api, reel):
    states = [reel_document(api, reel)]
    for base, frame in enumerate((30, 60, 90, 120)):
        api.edit(reel, base, kind="add_cut", frame=frame)
        states.append(reel_document(api, reel))
    request = {"edit_id": str(uuid.uuid4()), "expect": 4, "revision": 2}
    path = f"/api/reels/{reel.pk}/back"
    change = api.post(path, request).json()
    assert change["revision"] == 5
    assert change["undo"]["revision"] == 2
    assert reel_document(api, reel) == states[2]
    # Sent again after a lost answer it is done once.
    assert api.post(path, request).json()["revision"] == 5
    assert api.turn(reel, "redo", change["redo"]["revision"]).json()["revision"] == 6
    assert reel_document(api, reel) == states[4]
    assert api.turn(reel, "undo", 4).json()["revision"] == 7
    assert reel_document(api, reel) == states[3] or reel_document(api, reel) == states[2]
    stale = {"edit_id": str(uuid.uuid4()), "expect": 4, "revision": 1}
    assert api.post(path, stale).status_code == 409


def reel_document(api, reel):
    return api.get(f"/api/reels/{reel.pk}").json()["document"]
