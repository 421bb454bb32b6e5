"""Who brings in or exports much at once does not keep the others waiting."""

import numpy as np
import pytest
import soundfile
from procrastinate.contrib.django.models import ProcrastinateJob

from bathyphon.server.exports.models import Export
from bathyphon.server.media.intake import take
from bathyphon.server.media.models import Media
from bathyphon.server.media.queue import put_first


@pytest.fixture
def content(tmp_path):
    path = tmp_path / "x.wav"
    soundfile.write(path, np.zeros(480), 48000)
    return path.read_bytes()


def bring_in(api, content, *names):
    return [take(api.user, name, [content], 48000) for name in names]


def order(task, key):
    """Ids in the order in which workers take them, as the queue's own query does."""
    jobs = ProcrastinateJob.objects.filter(task_name=task, status="todo")
    return [job.args[key] for job in jobs.order_by("-priority", "id")]


def names():
    found = {str(m.pk): m.name for m in Media.objects.all()}
    return [found[id] for id in order("prepare_media", "media")]


def test_accounts_take_turns(api, stranger, content):
    bring_in(api, content, "a1", "a2", "a3", "a4")
    bring_in(stranger, content, "b1", "b2")
    assert names() == ["a1", "b1", "a2", "b2", "a3", "a4"]


def test_what_somebody_wants_first_comes_before_their_others_only(api, stranger, content):
    rows = bring_in(api, content, "a1", "a2", "a3", "a4")
    bring_in(stranger, content, "b1", "b2")
    put_first(api.user, [rows[3].pk, rows[2].pk])
    assert names() == ["a4", "b1", "a3", "b2", "a1", "a2"]


def test_who_has_waited_begins_anew(api, stranger, content):
    """What is done does not count against whose it was."""
    rows = bring_in(api, content, "a1", "a2")
    bring_in(stranger, content, "b1")
    ProcrastinateJob.objects.filter(args__media=str(rows[0].pk))
    Media.objects.filter(pk__in=[row.pk for row in rows]).update(state=Media.READY)
    bring_in(api, content, "a3")
    assert names().index("a3") <= 2


def test_exports_take_turns_and_have_a_bound(api, stranger, reel, monkeypatch):
    for _ in range(3):
        assert api.post(f"/api/reels/{reel.pk}/exports", {}).status_code == 201
    other = stranger.post("/api/reels", {"name": "Theirs"}).json()["id"]
    assert stranger.post(f"/api/reels/{other}/exports", {}).status_code == 201
    of = {str(e.pk): e.account.username for e in Export.objects.all()}
    assert [of[id] for id in order("run_export", "export")] == ["mara", "odell", "mara", "mara"]
    monkeypatch.setattr("bathyphon.server.exports.api.MOST_OPEN", 3)
    full = api.post(f"/api/reels/{reel.pk}/exports", {})
    assert "under way already" in full.json()["detail"]
