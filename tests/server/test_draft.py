"""The hand's line: what a hand is doing is seen and heard, and nothing of it is kept."""

import asyncio
import json
import struct
import time
import uuid
from threading import Event
from types import SimpleNamespace

import numpy as np
import pytest
from asgiref.sync import async_to_sync, sync_to_async
from asgiref.testing import ApplicationCommunicator
from conftest import RATE
from django.db import OperationalError

from bathyphon.core.edits.patch import apply_patch
from bathyphon.core.engine.keys import Superseded
from bathyphon.server.asgi import application
from bathyphon.server.sound import hand as sound_hand
from bathyphon.server.sound.hand import _Line

MUFFLE = {"kind": "set_effect", "owner": "treatment:f1", "id": "e0"}
OWN = "http://testserver"


def talk(api, path, questions, origin=OWN):
    """Call, ask, and hang up; the frames of all answers, or the code with which one is let go."""

    async def run():
        cookie = f"sessionid={api.cookie}" if api else ""
        headers = {"host": "testserver", "origin": origin, "cookie": cookie}
        scope = {
            "type": "websocket",
            "path": path,
            "headers": [(name.encode(), value.encode()) for name, value in headers.items()],
        }
        line = ApplicationCommunicator(application, scope)
        await line.send_input({"type": "websocket.connect"})
        first = await line.receive_output(5)
        if first["type"] == "websocket.close":
            return first.get("code", 1000)
        frames, unwanted = [], set()
        for question, answers in questions:
            if callable(question):
                # Something that happens between two questions.
                await sync_to_async(question)()
                continue
            await line.send_input({"type": "websocket.receive", "text": question})
            if not answers:
                unwanted.add(json.loads(question)["number"])
            while answers:
                said = await line.receive_output(30)
                if said["type"] == "websocket.close":
                    return said["code"]
                frame = frame_of(said["bytes"])
                # What is given up may have been answered before that was known.
                if frame[0]["number"] not in unwanted:
                    frames.append(frame)
                    answers -= 1
        await line.send_input({"type": "websocket.disconnect"})
        await asyncio.wait_for(line.wait(10), 10)
        return frames

    return async_to_sync(run)()


def frame_of(data):
    (words,) = struct.unpack_from("<I", data)
    return json.loads(data[4 : 4 + words]), np.frombuffer(data[4 + words :], np.float32)


def ask(api, reel, **wanted):
    """The frames that answer one question."""
    answers = 2 if wanted.get("drawing") or wanted.get("derived") else 1
    return talk(api, f"/api/reels/{reel.pk}/hand", [(json.dumps(wanted), answers)])


def block(api, reel, index, generation):
    path = f"/api/reels/{reel.pk}/sound/treated/{index}?player=p&generation={generation}"
    return np.frombuffer(api.get(path).content, np.float32).reshape(2, -1)


def test_a_draft_is_seen_and_heard_and_not_kept(api, reel):
    (said, pcm), (shown, _) = ask(
        api, reel,
        number=7,
        commands=[{**MUFFLE, "params": {"high_cut_hz": 250}}],
        sound=[(RATE, RATE + 9600), (2 * RATE, 2 * RATE + 2400)],
        drawing={"owner": "treatment:f1", "effect": "e0", "at": RATE},
        derived=True,
    )  # fmt: skip
    assert (said["number"], shown["number"]) == (7, 7)
    assert [(step["path"].rpartition("/")[2], step["value"]) for step in said["patch"]] == [
        ("high_cut_hz", 250)
    ]
    assert [(s["start"], s["samples"]) for s in said["sound"]] == [(RATE, 9600), (2 * RATE, 2400)]
    assert pcm.size == 2 * (9600 + 2400)
    assert shown["drawing"]["grips"]
    assert shown["derived"]["length"] == said["length"]
    assert api.get(f"/api/reels/{reel.pk}").json()["revision"] == 0
    # What is heard is what would be heard of it: the same edit, made.
    api.edit(reel, 0, **MUFFLE, params={"high_cut_hz": 250})
    made = block(api, reel, 1, 1)[:, :9600]
    assert np.abs(pcm[: 2 * 9600].reshape(2, -1) - made).max() < 0.02 * np.abs(made).max()


@pytest.mark.parametrize("first", [0, RATE // 2400 * 2400 + 4800, 2 * RATE])
@pytest.mark.parametrize("reserve", [False, True])
def test_a_knob_that_is_turned_on_and_on_is_heard_without_steps(api, reel, first, reserve):
    """Each state goes on from what the one before it remembered."""
    path = f"/api/reels/{reel.pk}/hand"
    questions = []
    for k in range(12):
        at = first + 2400 * k
        commands = [{**MUFFLE, "params": {"high_cut_hz": 900 - 40 * k}}]
        fresh = {"number": 2 * k + 1, "sound": [[at, at + 4800]], "commands": commands}
        questions.append((json.dumps({**fresh, "instead": 2 * k} if reserve else fresh), 1))
        if reserve:
            # More of it, which is given up as soon as the hand has moved on.
            more = {"number": 2 * k + 2, "sound": [[at + 1200, at + 40_000]], "commands": commands}
            questions.append((json.dumps(more), 0))
    frames = talk(api, path, questions)
    sound = np.concatenate([pcm.reshape(2, -1)[:, :2400] for _, pcm in frames], axis=1)
    steps = np.abs(np.diff(sound[0]))
    at_joints = np.zeros(steps.size, bool)
    at_joints[2399::2400] = True
    assert steps[at_joints].max() <= 1.1 * steps[~at_joints].max()
    assert np.sqrt(np.mean(sound**2)) > 1e-3


def test_what_the_next_question_gives_up_is_not_worked_out_to_its_end(api, reel, monkeypatch):
    from bathyphon.server.sound.engine import ReelEngine

    real = ReelEngine.slice

    def slow(self, asked, start, stop):
        if stop - start < RATE // 2:
            return real(self, asked, start, stop)
        for _ in range(600):
            if not asked.wanted():
                raise Superseded
            time.sleep(0.05)
        raise AssertionError("worked out to its end")

    monkeypatch.setattr(ReelEngine, "slice", slow)
    path = f"/api/reels/{reel.pk}/hand"
    more = {"number": 1, "commands": [MUFFLE], "sound": [[0, RATE]], "derived": True}
    fresh = {"number": 2, "commands": [], "sound": [[0, 4800]], "instead": 1}
    first = {"commands": []}
    questions = [(json.dumps(first), 1), (json.dumps(more), 0), (json.dumps(fresh), 1)]
    assert [said["number"] for said, _ in talk(api, path, questions)] == [0, 2]
    # Nor is what a window has left behind: the line would not end for half a minute.
    assert len(talk(api, path, questions[:2])) == 1


def test_what_cannot_be_done_is_refused_in_a_sentence(api, reel):
    bad = {**MUFFLE, "params": {"high_cut_hz": 1}}
    [(said, _)] = ask(api, reel, number=3, commands=[bad])
    assert said["number"] == 3
    assert said["where"].endswith("high_cut_hz")
    assert said["refused"]
    for wanted in ({"commands": [{"kind": "fly"}]}, {"commands": "x"},
                   {"commands": [], "sound": [(0, 10**9)]}):  # fmt: skip
        [(said, _)] = ask(api, reel, **wanted)
        assert said["refused"], wanted
    # The line is still there: the next question is answered.
    path = f"/api/reels/{reel.pk}/hand"
    frames = talk(api, path, [("{", 1), (json.dumps({"number": 1, "commands": []}), 1)])
    assert [said.get("patch") for said, _ in frames] == [None, []]


def test_only_who_may_see_the_reel_is_answered_and_only_from_our_own_page(api, reel, stranger):
    path = f"/api/reels/{reel.pk}/hand"
    question = [(json.dumps({"commands": []}), 1)]
    assert talk(stranger, path, question) == 4404
    assert talk(None, path, question) == 4401
    for origin in ("http://elsewhere.example", "", "null"):
        assert talk(api, path, question, origin=origin) == 4401
    assert isinstance(talk(api, f"/api/reels/{uuid.uuid4()}/hand", question), int)
    assert isinstance(talk(api, "/api/elsewhere", question), int)


def test_what_has_become_an_edit_is_not_done_twice(api, reel):
    """A window asks on while its edit is on the way, and cannot know when it is there."""
    mark = {"kind": "add_markers", "markers": [{"id": "m", "at": RATE, "label": "Door"}]}
    edit_id = str(uuid.uuid4())
    wanted = {"commands": [mark], "sound": [[0, 4800]], "edit_id": edit_id}
    [(before, _)] = ask(api, reel, **wanted)
    assert before["patch"]
    data = {"edit_id": edit_id, "base": 0, "commands": [mark]}
    assert api.post(f"/api/reels/{reel.pk}/edits", data).status_code == 200
    [(after, pcm)] = ask(api, reel, **wanted)
    assert (after["revision"], after["patch"], pcm.size) == (1, [], 9600)


@pytest.mark.parametrize("recorded", [0, 1, 2])
def test_a_draft_is_made_upon_what_was_let_go_of_before_it(api, reel, recorded):
    """However much of that has been recorded when it is asked for: each is in it once."""

    def mark(name):
        return {"kind": "add_markers", "markers": [{"id": name, "at": RATE, "label": name}]}

    sent = [{"edit_id": str(uuid.uuid4()), "commands": [mark(name)]} for name in ("a", "b")]
    for base, edit in enumerate(sent[:recorded]):
        data = {**edit, "base": base}
        assert api.post(f"/api/reels/{reel.pk}/edits", data).status_code == 200
    [(said, pcm)] = ask(api, reel, commands=[mark("c")], upon=sent, sound=[[0, 4800]])
    document = api.get(f"/api/reels/{reel.pk}").json()["document"]
    seen, _ = apply_patch(document, said["patch"])
    assert sorted(m["id"] for m in seen["markers"]) == ["a", "b", "c"]
    assert (said["revision"], pcm.size) == (recorded, 9600)


def test_what_a_draft_is_made_upon_and_cannot_be_is_refused_in_a_sentence(api, reel):
    gone = {"kind": "set_clip", "id": "gone", "gain_db": 0}
    sent = {"edit_id": str(uuid.uuid4()), "commands": [gone]}
    [(said, _)] = ask(api, reel, number=3, commands=[MUFFLE], upon=[sent])
    assert said["number"] == 3
    assert "no longer there" in said["refused"]
    [(said, _)] = ask(api, reel, commands=[], upon=[{"edit_id": "no id", "commands": []}])
    assert "upon" in said["where"]


@pytest.mark.parametrize("known", [0, 1], ids=["not known yet", "known"])
def test_what_becomes_an_edit_while_one_asks_is_not_done_twice(api, reel, known, monkeypatch):
    """What the line knows of the reel may be from before the edit, or from after it."""
    monkeypatch.setattr("bathyphon.server.sound.hand.LOOKED_UP_SECONDS", 60.0)
    monkeypatch.setattr("bathyphon.server.sound.hand.TOO_OLD_SECONDS", 60.0)
    louder = {"kind": "set_clip", "id": "c1", "gain_db": -6}
    edit_id = str(uuid.uuid4())
    mark = {"kind": "add_markers", "markers": [{"id": "m", "at": RATE, "label": "Door"}]}
    asked = {"commands": [louder, mark], "sound": [[0, 4800]], "edit_id": edit_id}

    def commit():
        data = {"edit_id": edit_id, "base": 0, "commands": [louder, mark]}
        assert api.post(f"/api/reels/{reel.pk}/edits", data).status_code == 200

    questions = [
        (json.dumps({**asked, "number": 1, "revision": 0}), 1),
        (commit, 0),
        (json.dumps({**asked, "number": 2, "revision": known}), 1),
    ]
    (before, was), (after, now) = talk(api, f"/api/reels/{reel.pk}/hand", questions)
    assert before["patch"]
    # With the draft on the reel as it was, or without one on the reel as it is.
    assert (after["revision"] == 0) == bool(after["patch"])
    assert after["revision"] == known
    np.testing.assert_array_equal(was, now)


def test_the_reel_is_looked_up_again_only_where_it_may_be_another_one(api, reel, monkeypatch):
    look_up, looked = _Line._look_up, []

    def counted(line):
        looked.append(line)
        return look_up(line)

    monkeypatch.setattr(_Line, "_look_up", counted)
    monkeypatch.setattr("bathyphon.server.sound.hand.LOOKED_UP_SECONDS", 60.0)

    def times(*questions):
        looked.clear()
        asked = [(json.dumps({"commands": [], **question}), 1) for question in questions]
        frames = talk(api, f"/api/reels/{reel.pk}/hand", asked)
        assert [said["revision"] for said, _ in frames] == [0] * len(questions)
        return len(looked)

    at_0 = {"revision": 0}
    assert times(at_0, at_0, at_0, at_0) == 1
    assert times(at_0, {"revision": 1}) == 2
    assert times(at_0, {**at_0, "edit_id": str(uuid.uuid4())}) == 1
    assert times({"revision": 1}) == 1
    monkeypatch.setattr("bathyphon.server.sound.hand.TOO_OLD_SECONDS", 0.0)
    assert times(at_0, at_0, at_0) == 3


def test_a_hand_does_not_wait_while_the_reel_is_looked_up_again(api, reel, monkeypatch):
    """The database may take its time: what is known of the reel is good for some seconds."""
    monkeypatch.setattr("bathyphon.server.sound.hand.LOOKED_UP_SECONDS", 0.0)
    look_up, say, looked, said = _Line._look_up, _Line._say, [], []
    begun, answered = Event(), Event()

    def slow(line):
        if looked:
            begun.set()
            looked.append(answered.wait(20))
        looked.append(True)
        return look_up(line)

    async def counted(line, frame):
        said.append(frame)
        if len(said) == 5:
            # On a busy machine all may be answered before it is even begun.
            await asyncio.to_thread(begun.wait, 20)
            answered.set()
        return await say(line, frame)

    monkeypatch.setattr(_Line, "_look_up", slow)
    monkeypatch.setattr(_Line, "_say", counted)
    question = (json.dumps({"commands": [MUFFLE], "revision": 0}), 1)
    assert len(talk(api, f"/api/reels/{reel.pk}/hand", [question] * 5)) == 5
    assert len(looked) > 1
    assert all(looked)


def test_who_may_no_longer_see_the_reel_is_let_go(api, reel, monkeypatch):
    """What was looked up is not held for long."""
    monkeypatch.setattr("bathyphon.server.sound.hand.LOOKED_UP_SECONDS", 0.0)
    look_up, may = _Line._look_up, [True, True]

    def once(line):
        if may:
            may.pop()
            return look_up(line)
        line.why = 4404
        return None

    monkeypatch.setattr(_Line, "_look_up", once)
    question = (json.dumps({"commands": [], "revision": 0}), 1)
    assert talk(api, f"/api/reels/{reel.pk}/hand", [question] * 40) == 4404


@pytest.mark.parametrize(("where", "asked"), [(_Line, "_look_up"), (sound_hand, "recorded")])
def test_a_database_that_has_been_away_is_asked_again(api, reel, monkeypatch, where, asked):
    ask_it, away = getattr(where, asked), [OperationalError("away")]

    def asked_again(*args):
        if away:
            raise away.pop()
        return ask_it(*args)

    monkeypatch.setattr(where, asked, asked_again)
    # The test's own connection stays as it is.
    monkeypatch.setattr("bathyphon.server.sound.hand.connection", SimpleNamespace(close=list))
    [(said, _)] = ask(api, reel, number=4, commands=[], edit_id=str(uuid.uuid4()))
    assert (said["number"], said["patch"], away) == (4, [], [])


def test_several_commands_are_one_edit(api, reel):
    commands = [
        {"kind": "set_clip", "id": "c1", "gain_db": -6},
        {**MUFFLE, "params": {"high_cut_hz": 300}},
    ]
    data = {"edit_id": str(uuid.uuid4()), "base": 0, "commands": commands}
    change = api.post(f"/api/reels/{reel.pk}/edits", data).json()
    assert change["revision"] == 1
    assert change["title"].endswith(", and 1 more change")
    before = api.get(f"/api/reels/{reel.pk}").json()["document"]
    api.turn(reel, "undo", 1)
    after = api.get(f"/api/reels/{reel.pk}").json()["document"]
    assert before != after
    clip = after["tracks"][0]["clips"][0]
    assert clip.get("gain_db", 0) == 0
    refused = [commands[0], {"kind": "set_clip", "id": "gone", "gain_db": 0}]
    data = {"edit_id": str(uuid.uuid4()), "base": 2, "commands": refused}
    assert api.post(f"/api/reels/{reel.pk}/edits", data).status_code == 422
    assert api.get(f"/api/reels/{reel.pk}").json()["document"] == after


def test_a_drawing_that_fails_ends_the_line_instead_of_leaving_it_waiting(api, reel, monkeypatch):
    from bathyphon.server.sound import draft

    def broken(*_):
        raise RuntimeError("no")

    monkeypatch.setattr(draft, "derived_with", broken)
    path = f"/api/reels/{reel.pk}/hand"
    assert talk(api, path, [(json.dumps({"commands": [], "derived": True}), 2)]) == 1011
    monkeypatch.undo()
    assert len(talk(api, path, [(json.dumps({"commands": [], "derived": True}), 2)])) == 2
