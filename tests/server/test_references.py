"""What reels refer to: media at other rates, prepared anew, replaced, brought in with a reel."""

import json
from types import SimpleNamespace

import numpy as np
import pytest
import soundfile
from conftest import RATE, SECONDS, bring_in, wav
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

from bathyphon.formats.conform import conform
from bathyphon.server.media.models import Media
from bathyphon.server.media.storage import local_file
from bathyphon.server.media.tasks import conform_medium
from bathyphon.server.reels.importing import import_reel
from bathyphon.server.reels.journal import create_reel
from reels import document, keyframes, noise


def block(api, reel, index):
    answer = api.get(f"/api/reels/{reel.pk}/sound/treated/{index}?player=p&generation=1")
    return np.frombuffer(answer.content, np.float32).reshape(2, -1)


def reel_of(user, medium, rate=RATE, **clip):
    doc = document(SECONDS * rate, rate=rate, clip=clip)
    doc["media"] = [{"id": str(medium.pk), "path": medium.name}]
    doc["tracks"][0]["clips"][0]["media"] = str(medium.pk)
    return create_reel(user, doc)


def jobs(task):
    with connection.cursor() as cursor:
        cursor.execute("SELECT args FROM procrastinate_jobs WHERE task_name = %s", [task])
        return [row[0] if isinstance(row[0], dict) else json.loads(row[0]) for row in cursor]


class Context:
    job = SimpleNamespace(attempts=0)

    def should_abort(self):
        return False


def test_a_sound_of_another_rate_is_converted_and_until_then_it_is_said(api, media):
    reel = reel_of(api.user, media, rate=32000)
    for _ in range(3):
        state = api.get(f"/api/reels/{reel.pk}").json()["derived"]
        assert state["converting"] == [str(media.pk)]
    assert not block(api, reel, 1).any()
    refused = api.post(f"/api/reels/{reel.pk}/exports", {"bits": "24"})
    assert refused.status_code == 422
    assert "32000 Hz" in refused.json()["detail"]
    # However often it was asked for, it is done once.
    [job] = jobs("conform_medium")
    conform_medium.func(Context(), **job)
    state = api.get(f"/api/reels/{reel.pk}").json()["derived"]
    assert state["converting"] == []
    target = media.blob.prepared / "expected.f32"
    conform(local_file(media.blob), target, 32000)
    expected = np.fromfile(target, np.float32).reshape(-1, 2).T[:, 32000:64000]
    assert np.array_equal(block(api, reel, 1), expected)
    # What was there at its own rate is there still.
    assert media.sound_path.is_file()
    assert api.post(f"/api/reels/{reel.pk}/exports", {"bits": "24"}).status_code == 201


def test_the_same_file_at_two_rates_keeps_two_waveforms(api, tmp_path):
    content = wav(noise(2 * RATE, 4), tmp_path)
    first = bring_in(api.user, "a.wav", content)
    _, before = api.fetch(f"/api/media/{first.pk}/peaks-256.i16")
    second = bring_in(api.user, "a.wav", content, rate=24000)
    assert api.fetch(f"/api/media/{first.pk}/peaks-256.i16")[1] == before
    _, other = api.fetch(f"/api/media/{second.pk}/peaks-256.i16")
    assert len(other) == pytest.approx(len(before) / 2, abs=12)


def test_beats_and_onsets_of_another_rate_lie_where_they_are_heard(api, tmp_path):
    clicks = np.zeros((2, SECONDS * RATE), np.float32)
    for at in range(RATE // 2, SECONDS * RATE, RATE // 2):
        clicks[:, at : at + 200] = np.hanning(200) * 0.5
    medium = bring_in(api.user, "clicks.wav", wav(clicks, tmp_path))
    here, there = (reel_of(api.user, medium, rate) for rate in (RATE, 32000))
    found = [
        api.get(f"/api/reels/{reel.pk}/found").json()["onsets"]["c1"] for reel in (here, there)
    ]
    assert len(found[0]) == len(found[1]) > 3
    assert np.allclose(np.array(found[0]) / RATE, np.array(found[1]) / 32000, atol=1e-3)


def test_what_is_prepared_anew_is_heard_anew(api, media):
    reel = reel_of(api.user, media)
    before = block(api, reel, 1)
    louder = np.fromfile(media.sound_path, np.float32) * np.float32(0.5)
    partial = media.sound_path.with_suffix(".part")
    louder.tofile(partial)
    partial.replace(media.sound_path)
    assert np.array_equal(block(api, reel, 1), before * np.float32(0.5))


def test_the_room_of_a_replaced_file_is_the_new_one(api, media, tmp_path):
    other = bring_in(api.user, "other.wav", wav(noise(RATE, 7), tmp_path))
    answer = np.zeros((2, 4800), np.float32)
    answer[:, [0, 2400]] = 1
    room = bring_in(api.user, "room.wav", wav(answer, tmp_path))
    chain = {"effects": [
        {"id": "e", "kind": "space", "params": {"file": str(room.pk), "mix": 100}}
    ]}  # fmt: skip
    reel = reel_of(api.user, media, treatment=chain)
    api.edit(reel, 0, kind="add_medium", medium={"id": str(room.pk), "path": "room.wav"})
    assert block(api, reel, 1).any()
    done = api.edit(reel, 1, kind="relink_medium", id=str(room.pk), to=str(other.pk), path="o.wav")
    assert done.status_code == 200
    state = api.get(f"/api/reels/{reel.pk}").json()
    effect = state["document"]["tracks"][0]["clips"][0]["treatment"]["effects"][0]
    assert effect["params"]["file"] == str(other.pk)
    assert block(api, reel, 1).any()


def test_a_reel_that_is_brought_in_knows_its_rooms(api, tmp_path):
    for name in ("m1", "room"):
        soundfile.write(tmp_path / f"{name}.wav", noise(RATE // 10, 3).T, RATE)
    doc = document(RATE // 10)
    doc["media"].append({"id": "room", "path": "room.wav"})
    part = {"id": "e", "kind": "space", "params": {"file": "room"}}
    doc["mix"] = {"treatment": {"effects": [part]}}
    (tmp_path / "reel.json").write_text(json.dumps(doc))
    reel, media = import_reel(api.user, tmp_path / "reel.json")
    named = api.get(f"/api/reels/{reel.pk}").json()["document"]["mix"]["treatment"]["effects"][0]
    ids = {m.name: str(m.pk) for m in media}
    assert named["params"]["file"] == ids["room.wav"]


def test_an_empty_sound_is_said_to_be_empty(api, tmp_path):
    medium = bring_in(api.user, "nothing.wav", wav(np.zeros((2, 0)), tmp_path), apart=True)
    assert medium.state == Media.FAILED
    assert medium.error == "“nothing.wav” is empty: it holds not one sample of sound"


@pytest.mark.django_db(transaction=True)
def test_reels_that_are_there_keep_the_sound_of_their_fades(api, media):
    fade = keyframes((0, 0), (RATE, -96))
    faded, plain = reel_of(api.user, media, gain_db=fade), reel_of(api.user, media)
    api.edit(faded, 0, kind="set_track", id="t1", name="Sea")
    executor = MigrationExecutor(connection)
    executor.migrate([("reels", "0001_initial")])
    executor = MigrationExecutor(connection)
    executor.migrate(executor.loader.graph.leaf_nodes())
    state = api.get(f"/api/reels/{faded.pk}").json()
    assert state["document"]["tracks"][0]["clips"][0]["gain_db"]["straight"] is True
    assert state["revision"] == 2
    assert api.get(f"/api/reels/{plain.pk}").json()["revision"] == 0
    # Undo takes back what was done last, and passes by the mark.
    assert state["undo"]["revision"] == 1
    undone = api.turn(faded, "undo", 1).json()
    assert undone["revision"] == 3
    state = api.get(f"/api/reels/{faded.pk}").json()
    assert state["document"]["tracks"][0]["name"] == "Music"
    assert state["document"]["tracks"][0]["clips"][0]["gain_db"]["straight"] is True
