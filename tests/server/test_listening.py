"""Comparing, measuring and judging over HTTP."""

import time

import numpy as np
import pytest
from conftest import RATE

from bathyphon.core.measure.levels import levels_of
from bathyphon.core.measure.tally import tally
from bathyphon.server.reels.head import head_of
from bathyphon.server.sound.media import PreparedMedia
from reels import rendered

OFF = [{"kind": "set_effect", "owner": "treatment:f1", "id": "e0", "bypass": True}]


def pcm(answer):
    return np.frombuffer(answer.content, np.float32).reshape(2, -1)


def other(api, reel, index, generation=1, **heard):
    path = f"/api/reels/{reel.pk}/sound/other/{index}?player=c&generation={generation}"
    return api.post(path, heard)


def whole(api, reel, revision=None, treated=True):
    reel.refresh_from_db()
    head = head_of(reel.pk, reel.revision)
    return rendered(head.document, PreparedMedia(api.user, head.reel), treated)


def measured(api, reel, sides, start=0, stop=4 * RATE, **more):
    for _ in range(20):
        body = {"sides": sides, "start": start, "stop": stop, **more}
        found = api.post(f"/api/reels/{reel.pk}/levels", body)
        assert found.status_code == 200, found.content
        if all(side["share"] == 1 for side in found.json()):
            return found.json()
    raise AssertionError("it is never done")


def test_another_state_is_heard_exactly_and_changes_nothing(api, reel):
    treated, bare = whole(api, reel), whole(api, reel, treated=False)
    for index in range(4):
        part = slice(index * RATE, (index + 1) * RATE)
        answer = other(api, reel, index, treated=False)
        assert answer["X-Block"] == "exact"
        assert pcm(answer).tobytes() == bare[:, part].tobytes()
        # The only effect of the reel's only treatment is off: as good as none.
        assert pcm(other(api, reel, index, commands=OFF)).tobytes() == bare[:, part].tobytes()
    assert not np.array_equal(treated, bare)
    assert api.get(f"/api/reels/{reel.pk}").json()["revision"] == 0


def test_an_earlier_state_is_heard_beside_the_newest(api, reel):
    before = whole(api, reel)
    api.edit(reel, 0, kind="set_effect", owner="treatment:f1", id="e0", params={"high_cut_hz": 300})
    now = whole(api, reel)
    assert pcm(other(api, reel, 1, revision=0)).tobytes() == before[:, RATE : 2 * RATE].tobytes()
    assert pcm(other(api, reel, 1)).tobytes() == now[:, RATE : 2 * RATE].tobytes()
    assert other(api, reel, 1, revision=7).status_code == 422
    assert other(api, reel, 1, what=7).status_code == 422


def test_levels_are_those_of_the_render_and_sides_can_be_matched(api, reel):
    sides = [{}, {"treated": False}, {"commands": OFF}]
    treated, bare, off = measured(api, reel, sides)
    expected = levels_of(tally(whole(api, reel), RATE))
    assert treated["loudness"] == pytest.approx(expected.loudness, abs=0.01)
    assert treated["true_peak"] == pytest.approx(expected.true_peak, abs=0.01)
    assert treated["correlation"] == pytest.approx(expected.correlation, abs=1e-3)
    assert bare["loudness"] == off["loudness"]
    gain = treated["loudness"] - bare["loudness"]
    matched = levels_of(tally(whole(api, reel, treated=False) * 10 ** (gain / 20), RATE))
    assert matched.loudness == pytest.approx(expected.loudness, abs=0.1)
    track = measured(api, reel, [{}], track="t1")[0]
    assert track["loudness"] == pytest.approx(expected.loudness, abs=0.01)


def test_levels_are_as_new_as_the_reel(api, reel):
    before = measured(api, reel, [{}])[0]["loudness"]
    api.edit(reel, 0, kind="set_track", id="t1", gain_db=-6)
    assert measured(api, reel, [{}])[0]["loudness"] == pytest.approx(before - 6, abs=0.01)
    part = measured(api, reel, [{}], start=RATE, stop=2 * RATE)[0]
    assert part["peak"] is not None


def judged(api, reel):
    for _ in range(300):
        found = api.get(f"/api/reels/{reel.pk}/findings").json()
        if found["done"]:
            return found
        time.sleep(0.05)
    raise AssertionError("it is never done")


@pytest.mark.django_db(transaction=True)
def test_findings_come_with_a_cure_that_is_one_edit(api, reel):
    api.edit(reel, 0, kind="set_track", id="t1", gain_db=24)
    found = judged(api, reel)
    assert found["failed"] == ""
    (clipping,) = [f for f in found["findings"] if f["kind"] == "clipping"]
    assert found["levels"]["true_peak"] > 0
    answer = api.edits(reel, 1, clipping["cure"]["commands"])
    assert answer.status_code == 200, answer.content
    cured = judged(api, reel)
    assert cured["revision"] == 2
    assert not [f for f in cured["findings"] if f["kind"] == "clipping"]


def test_checks_say_what_they_go_by(api):
    checks = api.get("/api/reels/checks").json()
    assert {"clipping", "masking", "click", "hum"} <= {c["kind"] for c in checks}
    assert all(t["source"] for c in checks for t in c["thresholds"])


def test_a_level_in_one_step(api, reel):
    path = f"/api/reels/{reel.pk}/level"
    cure = api.post(path, {"step": "normalise", "of": ["mix"]}).json()
    assert "−1.0 dBTP" in cure["label"]
    assert api.edits(reel, 0, cure["commands"]).status_code == 200
    assert -1.05 <= measured(api, reel, [{}])[0]["true_peak"] <= -1.0
    wrong = api.post(path, {"step": "match_neighbour", "of": ["clip:c1"]})
    assert wrong.status_code == 422
    assert "neighbour" in wrong.json()["detail"]
    assert api.post(path, {"step": "polish", "of": ["mix"]}).status_code == 422


def test_strangers_measure_nothing(api, stranger, reel):
    for path in ("levels", "level"):
        assert stranger.post(f"/api/reels/{reel.pk}/{path}", {"sides": [{}]}).status_code in (
            404,
            422,
        )
    assert stranger.get(f"/api/reels/{reel.pk}/findings").status_code == 404
    assert other(stranger, reel, 0).status_code == 404


def test_what_an_end_would_cut_off_is_told(api, reel):
    hall = {"id": "hall", "kind": "reverb", "params": {"decay_s": 2.0}}
    span = {"track": "t1", "id": "f2", "name": "Hall", "effects": [hall]}
    api.edit(reel, 0, kind="add_treatment", start={"sample": 0}, end={"sample": RATE}, **span)
    path = f"/api/reels/{reel.pk}/ringing?at="
    (cut,) = api.get(f"{path}{RATE + RATE // 4}").json()
    assert (cut["of"], cut["label"]) == ("treatment:f2", "Hall")
    assert -50 < cut["level"] < 0
    assert cut["ends"] > 2 * RATE
    # Neither within its span nor when it has faded away.
    assert api.get(f"{path}{RATE // 2}").json() == []
    assert api.get(f"{path}{cut['ends']}").json() == []
