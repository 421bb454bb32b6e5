"""A draft: what a hand is doing is seen and heard, and nothing of it is kept."""

import json
import struct

import numpy as np
import pytest
from conftest import RATE

MUFFLE = {"kind": "set_effect", "owner": "treatment:f1", "id": "e0"}


def ask(api, reel, **wanted):
    """The frames of an answer: what is said, and the sound."""

    async def run():
        from django.test import AsyncClient

        client = AsyncClient()
        await client.aforce_login(api.user)
        answer = await client.post(
            f"/api/reels/{reel.pk}/draft", json.dumps(wanted), "application/json"
        )
        if not answer.streaming:
            return answer, answer.content
        return answer, b"".join([part async for part in answer.streaming_content])

    from asgiref.sync import async_to_sync

    answer, body = async_to_sync(run)()
    if answer.status_code != 200:
        return answer.status_code, json.loads(body) if body.startswith(b"{") else {}
    frames, at = [], 0
    while at < len(body):
        words, sound = struct.unpack_from("<II", body, at)
        said = json.loads(body[at + 8 : at + 8 + words])
        pcm = np.frombuffer(body[at + 8 + words : at + 8 + words + sound], np.float32)
        frames.append((said, pcm))
        at += 8 + words + sound
    return 200, frames


def block(api, reel, index, generation):
    path = f"/api/reels/{reel.pk}/sound/treated/{index}?player=p&generation={generation}"
    return np.frombuffer(api.get(path).content, np.float32).reshape(2, -1)


def test_a_draft_is_seen_and_heard_and_not_kept(api, reel):
    status, frames = ask(
        api, reel,
        commands=[{**MUFFLE, "params": {"high_cut_hz": 250}}],
        sound=[(RATE, RATE + 9600), (2 * RATE, 2 * RATE + 2400)],
        drawing={"owner": "treatment:f1", "effect": "e0", "at": RATE},
        derived=True,
    )  # fmt: skip
    assert status == 200
    (said, pcm), (shown, _) = frames
    assert said["patch"] == [
        {"op": "replace", "path": "/tracks/0/treatments/0/effects/0/params/high_cut_hz",
         "value": 250}
    ] or said["patch"][0]["value"] == 250  # fmt: skip
    assert [(s["start"], s["samples"]) for s in said["sound"]] == [(RATE, 9600), (2 * RATE, 2400)]
    assert pcm.size == 2 * (9600 + 2400)
    assert shown["drawing"]["grips"] and shown["derived"]["length"] == said["length"]
    assert api.get(f"/api/reels/{reel.pk}").json()["revision"] == 0
    # What is heard is what would be heard of it: the same edit, made.
    api.edit(reel, 0, **MUFFLE, params={"high_cut_hz": 250})
    made = block(api, reel, 1, 1)[:, :9600]
    assert np.abs(pcm[: 2 * 9600].reshape(2, -1) - made).max() < 0.02 * np.abs(made).max()


@pytest.mark.parametrize("first", [0, RATE + RATE // 7 * 2, 3 * RATE])
def test_a_knob_that_is_turned_on_and_on_is_heard_without_steps(api, reel, first):
    """Each state goes on from the one before it: no pre-roll, and no jump of the sound."""
    heard = []
    at = first // 2400 * 2400
    for k in range(12):
        status, frames = ask(
            api, reel,
            commands=[{**MUFFLE, "params": {"high_cut_hz": 900 - 40 * k}}],
            sound=[(at, at + 4800)],
        )  # fmt: skip
        assert status == 200
        heard.append(frames[0][1].reshape(2, -1)[:, :2400])
        at += 2400
    sound = np.concatenate(heard, axis=1)
    steps = np.abs(np.diff(sound[0]))
    joints = steps[2399::2400]
    assert joints.max(initial=0.0) <= 1.5 * steps.max(initial=0.0)
    assert np.isfinite(sound).all()


def test_what_cannot_be_done_is_refused_in_a_sentence(api, reel, stranger):
    status, said = ask(api, reel, commands=[{**MUFFLE, "params": {"high_cut_hz": 1}}])
    assert status == 422 and "high_cut_hz" in said["where"]
    assert ask(api, reel, commands=[{"kind": "fly"}])[0] == 422
    assert ask(api, reel, commands=[], sound=[(0, 10**9)])[0] == 422
    assert ask(api, reel, commands="x")[0] == 422
    assert ask(stranger, reel, commands=[])[0] == 404


def test_several_commands_are_one_edit(api, reel):
    import uuid

    commands = [
        {"kind": "set_clip", "id": "c1", "gain_db": -6},
        {**MUFFLE, "params": {"high_cut_hz": 300}},
    ]
    data = {"edit_id": str(uuid.uuid4()), "base": 0, "commands": commands}
    change = api.post(f"/api/reels/{reel.pk}/edits", data).json()
    assert change["revision"] == 1 and change["title"].endswith(", and 1 more change")
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
