"""Exports: the job renders what the reel was, reports, and stops when asked."""

from types import SimpleNamespace

import numpy as np
import pytest
import soundfile

from bathyphon.server.exports import tasks
from bathyphon.server.exports.models import Export
from bathyphon.server.exports.tasks import run_export
from bathyphon.server.media.models import Media
from bathyphon.server.reels.head import head_of
from bathyphon.server.sound.media import PreparedMedia
from reels import rendered


def work(export, aborted=False, attempts=0):
    job = SimpleNamespace(attempts=attempts)
    context = SimpleNamespace(should_abort=lambda: aborted, job=job)
    run_export.func(context, export=str(export.pk))
    export.refresh_from_db()
    return export


def ask(api, reel, **options):
    answer = api.post(f"/api/reels/{reel.pk}/exports", options)
    assert answer.status_code == 201
    return Export.objects.get(pk=answer.json()["id"])


def test_what_brings_its_worker_down_again_and_again_is_set_aside(api, reel):
    export = work(ask(api, reel), attempts=3)
    assert export.state == Export.FAILED
    assert "set aside" in export.error
    assert work(ask(api, reel), attempts=2).state == Export.DONE


@pytest.mark.parametrize("treated", [True, False])
def test_an_export_is_the_render_of_the_revision_asked_for(api, reel, treated, tmp_path):
    export = ask(api, reel, bits="32f", treated=treated)
    head = head_of(reel.pk, 0)
    expected = rendered(head.document, PreparedMedia(api.user, head.reel), treated)
    api.edit(reel, 0, kind="set_track", id="t1", gain_db=-40.0)
    work(export)
    assert (export.state, export.progress) == (Export.DONE, 1.0)
    _, content = api.fetch(f"/api/exports/{export.pk}/file")
    (tmp_path / "a.wav").write_bytes(content)
    found, rate = soundfile.read(tmp_path / "a.wav", dtype="float32", always_2d=True)
    assert rate == 48000
    assert np.ascontiguousarray(found.T).tobytes() == expected.tobytes()


def test_the_file_is_24_bit_by_default(api, reel):
    export = work(ask(api, reel))
    assert soundfile.info(export.path).subtype == "PCM_24"


def test_a_cancelled_export_stops_and_leaves_no_file(api, reel):
    export = ask(api, reel)
    answer = api.post(f"/api/exports/{export.pk}/cancel")
    assert answer.json()["state"] == "cancelled"
    assert work(export).state == Export.CANCELLED
    assert not export.path.exists()
    assert api.fetch(f"/api/exports/{export.pk}/file")[0].status_code == 404


def test_a_worker_that_is_stopped_puts_its_export_back(api, reel):
    export = work(ask(api, reel), aborted=True)
    assert export.state == Export.QUEUED
    assert not export.path.exists()
    assert work(export).state == Export.DONE


def test_an_empty_reel_says_so(api):
    made = api.post("/api/reels", {"name": "Empty"}).json()
    answer = api.post(f"/api/reels/{made['id']}/exports", {})
    export = work(Export.objects.get(pk=answer.json()["id"]))
    assert export.state == Export.FAILED
    assert "empty" in export.error


def test_what_is_still_being_prepared_is_waited_for(api, reel, media):
    media.state = Media.PREPARING
    media.save()
    answer = api.post(f"/api/reels/{reel.pk}/exports", {})
    assert answer.status_code == 422
    assert "still being prepared" in answer.json()["detail"]


@pytest.mark.parametrize(("start", "stop"), [(0, 48000), (30000, 100001), (12345, None)])
def test_a_range_is_that_stretch_of_the_whole(api, reel, start, stop, tmp_path):
    head = head_of(reel.pk, 0)
    whole = rendered(head.document, PreparedMedia(api.user, head.reel))
    export = work(ask(api, reel, bits="32f", start=start, stop=stop))
    assert export.state == Export.DONE
    found, _ = soundfile.read(export.path, dtype="float32", always_2d=True)
    assert np.ascontiguousarray(found.T).tobytes() == whole[:, start:stop].tobytes()


def test_a_range_that_holds_nothing_is_refused(api, reel):
    answer = api.post(f"/api/reels/{reel.pk}/exports", {"start": 500, "stop": 500})
    assert answer.status_code == 422
    assert "ends before it begins" in answer.json()["detail"]
    late = work(ask(api, reel, start=10**9, stop=10**9 + 5))
    assert late.state == Export.FAILED
    assert "nothing sounds" in late.error


def test_an_export_that_would_never_end_is_refused(api, reel):
    """A clip that was thrown far out by mistake."""
    far = {"kind": "move_clips", "ids": ["c1"], "frames": 2**31}
    assert api.edits(reel, 0, [far]).status_code == 200
    export = work(ask(api, reel))
    assert export.state == Export.FAILED
    assert "hours long" in export.error
    assert not export.path.exists()
    # A part of it can still be had.
    assert work(ask(api, reel, start=0, stop=48000)).state == Export.DONE


def test_an_export_that_takes_too_long_ends_and_says_what_would_help(api, reel, monkeypatch):
    monkeypatch.setattr(tasks, "LONGEST_WORK_HOURS", 0.0)
    export = work(ask(api, reel))
    assert export.state == Export.FAILED
    assert "export it in ranges" in export.error
    assert not export.path.exists()


def test_an_export_that_the_disk_cannot_hold_is_refused(api, reel, monkeypatch):
    few = SimpleNamespace(free=2**28 + 1000)
    monkeypatch.setattr(tasks, "disk_usage", lambda folder: few)
    export = work(ask(api, reel))
    assert export.state == Export.FAILED
    assert "GB to spare" in export.error


def test_an_export_ends_whatever_happens(api, reel, monkeypatch):
    def broken(document):
        raise ZeroDivisionError

    export = ask(api, reel)
    monkeypatch.setattr(tasks, "read_reel", broken)
    work(export)
    assert export.state == Export.FAILED
    assert "log says why" in export.error
